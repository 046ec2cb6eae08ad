import { requireAbove0, requireNotBelow0 } from '../numerics/index.ts';
import { planMinutes, type RoastPlan } from './plan.ts';
import type { RoastEvent } from './simulate.ts';

/**
 * What hands did, as the model understands it; cues that change nothing are left out.
 *
 * @param events noted events: a name, an instant, and seconds (stirred, door) or °C (set)
 * @param startedAt instant of beans-in
 */
export function modelEvents(
  events: readonly { name: string; at: string; value: number | null }[],
  startedAt: string,
): RoastEvent[] {
  const start = Date.parse(startedAt);
  return events.flatMap((e): RoastEvent[] => {
    const seconds = (Date.parse(e.at) - start) / 1000;
    if (e.name === 'stirred') return [{ seconds, kind: 'stir', lasts: e.value ?? 20 }];
    if (e.name === 'door') return [{ seconds, kind: 'door', lasts: e.value ?? 15 }];
    if (e.name === 'set' && e.value !== null) return [{ seconds, kind: 'set', setC: e.value }];
    if (e.name === 'next-stage') return [{ seconds, kind: 'next-stage' }];
    return [];
  });
}

/** How near the end of a plan a stir is no longer worth the open door, s. */
export const UNSTIRRED_END = 120;

/** A stir at so many seconds since beans-in, with the door open for 20 s. Throws RangeError for a time before beans-in. */
export function stirAt(seconds: number): RoastEvent {
  requireNotBelow0(seconds, 'the time of a stir');
  return { seconds, kind: 'stir', lasts: 20 };
}

/**
 * Stirs still to come, at the usual interval until shortly before the end of the plan.
 *
 * @param every seconds between them; none where left out
 * @param last seconds since beans-in of the last one, 0 where there was none
 * @throws RangeError for an interval not above 0 or a last one before beans-in
 */
export function plannedStirs(plan: RoastPlan, every: number | undefined, last: number): RoastEvent[] {
  if (every === undefined) return [];
  requireAbove0(every, 'the time between stirs');
  requireNotBelow0(last, 'the last stir');
  const end = planMinutes(plan) * 60 - UNSTIRRED_END;
  const stirs: RoastEvent[] = [];
  for (let seconds = last + every; seconds < end; seconds += every) stirs.push(stirAt(seconds));
  return stirs;
}
