import { cholesky, solveLower, type Triangle } from '../numerics/index.ts';
import type { BeanReading } from './dose.ts';
import { DISCREPANCY, DISCREPANCY_TIME } from './oven.ts';

/** By how much a probe's readings miss the model. */
export interface Misses {
  /** What neighbouring readings share, since the model leaves it out, K. */
  stray: number;
  /** What each has of its own, K. */
  noise: number;
}

/** Noise of a single reading once what neighbouring ones share is reckoned apart, K. */
const READING_U = 0.5;

/** The air wanders about what the model says this much more than the beans do. */
const AIR_COARSER = 2.5;

/** How the beans' readings miss before they have told, and the air's. */
export const USUAL_MISSES = {
  bean: { stray: DISCREPANCY, noise: READING_U },
  air: { stray: AIR_COARSER * DISCREPANCY, noise: AIR_COARSER * READING_U },
} as const satisfies Record<string, Misses>;

/** How much of what the model leaves out two readings share that lie so far apart, 0–1: a first-order autoregression in time. */
export const shared = (seconds: number): number => Math.exp(-Math.abs(seconds) / DISCREPANCY_TIME);

/** Covariance of a probe's readings about the model, K², row by row. */
function covarianceOf(readings: readonly BeanReading[], { stray, noise }: Misses): Float64Array {
  const n = readings.length;
  const values = new Float64Array(n * n);
  for (let i = 0; i < n; i += 1)
    for (let k = 0; k < n; k += 1)
      values[i * n + k] =
        stray ** 2 * shared(readings[i]!.seconds - readings[k]!.seconds) + (i === k ? noise ** 2 : 0);
  return values;
}

/**
 * What a probe's readings miss by, made independent of each other and of unit spread, so that least squares weighs a thousand readings of
 * one wandering roast as the few they are.
 */
export function whitening(
  readings: readonly BeanReading[],
  misses: Misses,
): (missed: readonly number[]) => number[] {
  if (readings.length === 0) return () => [];
  const factor = factorFor(readings, misses);
  return (missed) => solveLower(factor, missed);
}

function factorFor(readings: readonly BeanReading[], misses: Misses): Triangle {
  const factor = cholesky(covarianceOf(readings, misses), readings.length);
  if (!factor) throw new RangeError('readings need a noise above 0');
  return factor;
}

/** Factors by which a roast's misses may differ from the usual ones, and how odd it is when they do: the sd of their logarithm. */
const STRAYS = [0.1, 0.25, 0.5, 0.75, 1, 1.4, 2];
const NOISES = [0.25, 0.5, 0.8, 1.2, 2, 4];
const ODD = 0.9;

/** Found misses count as this much larger, since neither they nor the model’s law are known exactly. */
const SLACK = 1.3;

/** Readings of a probe with what the model misses them by, and how that moves with each parameter (a row a reading). */
export interface Missed {
  readings: readonly BeanReading[];
  missed: readonly number[];
  moves: readonly (readonly number[])[];
}

/**
 * How this roast's readings miss the model, by the readings themselves: the likeliest of a grid about the usual figures, whatever the
 * parameters are (marginal likelihood of the linearised model with standard normal parameters; the prior of the factors is lognormal). What
 * the fit could have taken up is thereby not counted as a good fit. Few readings leave the usual figures.
 *
 * @param at parameters the model was linearised at
 */
export function learnMisses(bean: Missed, air: Missed, at: readonly number[]): { bean: Misses; air: Misses } {
  const all = [bean, air];
  // Back to where the parameters are as expected beforehand.
  const expected = all.flatMap(({ missed, moves }) =>
    missed.map((m, i) => m - at.reduce((sum, z, k) => sum + moves[i]![k]! * z, 0)),
  );
  const moves = all.flatMap((p) => p.moves);
  const n = expected.length;
  const open = new Float64Array(n * n);
  for (let i = 0; i < n; i += 1)
    for (let k = 0; k <= i; k += 1)
      open[i * n + k] = moves[i]!.reduce((sum, m, p) => sum + m * moves[k]![p]!, 0);
  const cost = (by: { bean: Misses; air: Misses }) => {
    const covariance = open.slice();
    let offset = 0;
    for (const [{ readings }, misses] of [
      [bean, by.bean],
      [air, by.air],
    ] as const) {
      const own = covarianceOf(readings, misses);
      for (let i = 0; i < readings.length; i += 1)
        for (let k = 0; k <= i; k += 1)
          covariance[(offset + i) * n + offset + k]! += own[i * readings.length + k]!;
      offset += readings.length;
    }
    const factor = cholesky(covariance, n);
    if (!factor) return Infinity;
    return solveLower(factor, expected).reduce(
      (sum, w, i) => sum + w ** 2 / 2 + Math.log(factor.values[i * n + i]!),
      0,
    );
  };
  let found: { bean: Misses; air: Misses } = { ...USUAL_MISSES };
  for (const which of ['bean', 'air', 'bean'] as const) {
    if ((which === 'bean' ? bean : air).readings.length < 4) continue;
    let least = Infinity;
    for (const s of STRAYS)
      for (const f of NOISES) {
        const usual = USUAL_MISSES[which];
        const tried = { ...found, [which]: { stray: usual.stray * s, noise: usual.noise * f } };
        const c = cost(tried) + ((Math.log(s) / ODD) ** 2 + (Math.log(f) / ODD) ** 2) / 2;
        if (c < least) [least, found] = [c, tried];
      }
  }
  const slack = ({ stray, noise }: Misses) => ({ stray: SLACK * stray, noise: SLACK * noise });
  return { bean: slack(found.bean), air: slack(found.air) };
}
