import { quantile, requireFinite } from '../numerics/index.ts';

/** Something a warning is of: when it happened and when it was first warned of, on one clock; null for never. */
export interface Warning {
  happenedAt: number | null;
  warnedAt: number | null;
}

/** How a warning did: of what it warns of, how much was warned of in time and how long before; of the rest, how much was warned of for nothing. */
export interface Warned {
  /** How often what is warned of happened, and how often it did not. */
  happened: number;
  quiet: number;
  /** Warned before it happened, and how long before. */
  inTime: number;
  leads: number[];
  /** Warned though it never happened. */
  false: number;
}

/** A warning of which nothing is known yet. */
export const unwarned = (): Warned => ({ happened: 0, quiet: 0, inTime: 0, leads: [], false: 0 });

/** Counts one more. @throws RangeError for an instant that is no number */
export function countWarned(w: Warned, { happenedAt, warnedAt }: Warning): void {
  for (const at of [happenedAt, warnedAt]) if (at !== null) requireFinite(at, 'an instant');
  if (happenedAt === null) {
    w.quiet += 1;
    if (warnedAt !== null) w.false += 1;
    return;
  }
  w.happened += 1;
  if (warnedAt !== null && warnedAt < happenedAt) {
    w.inTime += 1;
    w.leads.push(happenedAt - warnedAt);
  }
}

/** How a warning did over all it could have warned of. */
export function warnedOf(warnings: readonly Warning[]): Warned {
  const all = unwarned();
  for (const one of warnings) countWarned(all, one);
  return all;
}

/** How long before, in the middle of those that came in time; null where none did. */
export const usualLead = ({ leads }: Pick<Warned, 'leads'>): number | null =>
  leads.length === 0 ? null : quantile([...leads], 0.5);
