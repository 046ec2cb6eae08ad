import { countWarned, unwarned, type Warned } from '../warned.ts';

/** How many of the outcomes lay inside a range that says 80 %, and on which side the others. */
export interface Held {
  inside: number;
  below: number;
  above: number;
}

/** What a station's forecasts and warnings are worth in simulated work that does not know them. */
export interface StationScore {
  ranges: Record<string, Held>;
  warnings: Record<string, Warned>;
  /** In which unit the lead of its warnings is counted. */
  leadUnit: 's' | 'h';
}

/** Counts an outcome against a range. */
export function countIn(
  ranges: Record<string, Held>,
  name: string,
  actual: number,
  low: number,
  high: number,
): void {
  const held = (ranges[name] ??= { inside: 0, below: 0, above: 0 });
  if (actual < low) held.below += 1;
  else if (actual > high) held.above += 1;
  else held.inside += 1;
}

/** Counts what a warning did: when what it warns of happened and when it was first given; null for never. */
export function countWarning(
  warnings: Record<string, Warned>,
  name: string,
  happenedAt: number | null,
  warnedAt: number | null,
): void {
  countWarned((warnings[name] ??= unwarned()), { happenedAt, warnedAt });
}

/** Share that lay inside, 0–1. */
export const shareInside = ({ inside, below, above }: Held): number => inside / (inside + below + above);
