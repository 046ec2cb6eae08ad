import { mean, quantile, requireFinite } from '../numerics/index.ts';

/** One yield on a chart: wanted output ÷ input. */
export interface ChartedYield {
  id: string;
  /** ISO instant; points come in order of time. */
  at: string;
  value: number;
}

/** Why a point asks for a look: it lies beyond the limits, or is the last of a long run on one side of the middle. */
export type YieldSignal = 'beyond' | 'run';

/** Yields with their limits. */
export interface YieldChart {
  /** Null below {@link YIELDS_NEEDED}: then limits mean nothing. */
  limits: { centre: number; lower: number; upper: number } | null;
  points: (ChartedYield & { signal: YieldSignal | null })[];
}

/** Yields needed before limits mean anything. */
export const YIELDS_NEEDED = 8;

/** So many in a row on one side of the middle are no chance any more (1 in 256 each way). */
export const LONG_RUN = 8;

/** Limits of single values from their mean moving range: 3 ÷ 1.128. */
const PER_RANGE = 3 / 1.128;

/**
 * Control chart of single values (Shewhart’s individuals chart): middle x̄, limits x̄ ± 2.66·MR̄, MR̄ the mean distance between
 * neighbours, so that a slow drift widens nothing. Points beyond are marked, and runs of {@link LONG_RUN} on one side of the median.
 *
 * @throws RangeError for values that are no numbers
 * @example yieldChart([…8 yields]).limits // { centre: 0.79, lower: 0.74, upper: 0.84 }
 */
export function yieldChart(yields: readonly ChartedYield[]): YieldChart {
  for (const y of yields) requireFinite(y.value, `the yield of ${y.id}`);
  const sorted = [...yields].sort((a, b) => a.at.localeCompare(b.at) || a.id.localeCompare(b.id));
  if (sorted.length < YIELDS_NEEDED)
    return { limits: null, points: sorted.map((y) => ({ ...y, signal: null })) };
  const values = sorted.map((y) => y.value);
  const centre = mean(values);
  const range = mean(values.slice(1).map((v, k) => Math.abs(v - values[k]!)));
  const reach = PER_RANGE * range;
  const limits = { centre, lower: centre - reach, upper: centre + reach };
  // One lost tray moves the mean, and would make a run of all others.
  const middle = quantile(values, 0.5);
  let side = 0;
  let run = 0;
  const points = sorted.map((y) => {
    const now = Math.sign(y.value - middle);
    run = now !== 0 && now === side ? run + 1 : 1;
    side = now;
    // What a computer rounds is no signal.
    const beyond = y.value > limits.upper + 1e-12 || y.value < limits.lower - 1e-12;
    const signal: YieldSignal | null = beyond ? 'beyond' : side !== 0 && run >= LONG_RUN ? 'run' : null;
    return { ...y, signal };
  });
  return { limits, points };
}
