import { quantile } from '../numerics/index.ts';
import type { BeanReading } from './dose.ts';

/** Temperature of a series at a time, straight between readings; null before the first, after the last, and across gaps over five minutes. */
export function seriesAt(readings: readonly BeanReading[], seconds: number): number | null {
  if (readings.length === 0 || seconds < readings[0]!.seconds || seconds > readings.at(-1)!.seconds)
    return null;
  let [low, high] = [0, readings.length - 1];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (readings[middle]!.seconds <= seconds) low = middle;
    else high = middle;
  }
  const [a, b] = [readings[low]!, readings[high]!];
  if (b.seconds - a.seconds > 300) return null;
  return b.seconds === a.seconds
    ? b.celsius
    : a.celsius + ((b.celsius - a.celsius) * (seconds - a.seconds)) / (b.seconds - a.seconds);
}

/** Roasts laid over each other at beans-in. */
export interface RoastComparison {
  /** Every 15 s: the lowest, middle and highest of all roasts there, and each roast less the first. */
  rows: { seconds: number; low: number; middle: number; high: number; differences: (number | null)[] }[];
  /** Largest difference of each roast from the first, K, and when; null for the first and for roasts without overlap. */
  largest: ({ kelvin: number; seconds: number } | null)[];
}

const EVERY = 15;

/** Compares roasts aligned on beans-in. Rows stand where at least two of them have readings. */
export function compareRoasts(roasts: readonly (readonly BeanReading[])[]): RoastComparison {
  const end = Math.max(0, ...roasts.map((r) => r.at(-1)?.seconds ?? 0));
  const rows: RoastComparison['rows'] = [];
  for (let seconds = 0; seconds <= end; seconds += EVERY) {
    const values = roasts.map((r) => seriesAt(r, seconds));
    const there = values.filter((v): v is number => v !== null);
    if (there.length < 2) continue;
    const first = values[0] ?? null;
    rows.push({
      seconds,
      low: Math.min(...there),
      middle: quantile(there, 0.5),
      high: Math.max(...there),
      differences: values.map((v) => (v === null || first === null ? null : v - first)),
    });
  }
  const largest = roasts.map((_, i) => {
    if (i === 0) return null;
    let found: { kelvin: number; seconds: number } | null = null;
    for (const row of rows) {
      const d = row.differences[i];
      if (d != null && (!found || Math.abs(d) > Math.abs(found.kelvin)))
        found = { kelvin: d, seconds: row.seconds };
    }
    return found;
  });
  return { rows, largest };
}
