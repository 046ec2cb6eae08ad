import { grindingHours, type Pause } from '../grind/index.ts';
import { requireNotBelow0 } from '../numerics/index.ts';
import type { StepKind } from './stepKinds.ts';

/** Work that stops when hands leave. */
const ATTENDED: ReadonlySet<StepKind> = new Set<StepKind>(['sort', 'winnow']);

/** A finished step, as far as it tells how long its machine ran. */
export interface RanStep {
  kind: StepKind;
  /** ISO instants. */
  startedAt: string;
  endedAt: string;
  /** Minutes hands were at it; null where nobody has said. */
  handsOnMinutes: number | null;
  /** When the machine stood in between. */
  pauses?: readonly Pause[];
}

/**
 * Hours a machine ran for a step: from its beginning to its end without the pauses. A step at which hands stand all the while, left open over
 * night, ran no longer than they were there.
 *
 * @throws RangeError for instants that are none, and hands that were there for less than no time
 */
export function ranHours({ kind, startedAt, endedAt, handsOnMinutes, pauses }: RanStep): number {
  const open = grindingHours(Date.parse(startedAt), Date.parse(endedAt), pauses);
  if (handsOnMinutes === null || !ATTENDED.has(kind)) return open;
  requireNotBelow0(handsOnMinutes, 'the minutes of hands');
  // None at all is a form that nobody filled in.
  return handsOnMinutes === 0 ? open : Math.min(open, handsOnMinutes / 60);
}
