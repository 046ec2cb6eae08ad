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
