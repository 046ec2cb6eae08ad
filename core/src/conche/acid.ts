import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import {
  leastSquares,
  normalDraw,
  quantileOfSorted,
  requireAbove0,
  requireFinite,
  requireNumbers,
  seededRandom,
} from '../numerics/index.ts';
import { CONCHE_DEFAULTS, type AirWay } from './defaults.ts';

/** A stretch of conching at one temperature with one way of air. */
export interface ConcheStretch {
  /** Hours it lasts. */
  hours: number;
  celsius: number;
  air: AirWay;
}

/** A sourness score, 0–10, tasted some hours in. */
export interface SournessTaste {
  hours: number;
  score: number;
}

/** Rate of the acid fall, 1/h: k_ref·Q10^((T−60)/10)·air factor. */
export function acidRate(
  celsius: number,
  air: AirWay,
  reference: number = CONCHE_DEFAULTS.rate.median,
): number {
  requireFinite(celsius, 'the temperature');
  requireAbove0(reference, 'the reference rate');
  const { q10, referenceC } = CONCHE_DEFAULTS;
  return reference * q10 ** ((celsius - referenceC) / 10) * CONCHE_DEFAULTS.air[air];
}

/** Hours at 60 °C with an open lid that do the same as the first `hours` of these stretches; the last one goes on for ever. */
export function equivalentHours(stretches: readonly ConcheStretch[], hours: number): number {
  let [sum, done] = [0, 0];
  stretches.forEach((s, i) => {
    const part =
      i === stretches.length - 1 ? Math.max(0, hours - done) : Math.min(s.hours, Math.max(0, hours - done));
    sum += part * acidRate(s.celsius, s.air, 1);
    done += part;
  });
  return sum;
}

/** What the tastings say of the run. */
export interface ConcheForecast {
  /** Median and 80 % range of the hour at which the aim is met; Infinity where it may never be. */
  toAim: { median: number; low: number; high: number };
  /** Share of plausible runs that meet the aim at all. */
  chanceMet: number;
  /** Sourness at an hour: median and 80 % range. */
  at: (hours: number) => { median: number; low: number; high: number };
  /** Rate at 60 °C with an open lid, 1/h. */
  rate: number;
  /** Tastings it rests on; 0 for the usual ranges alone. */
  tastings: number;
}

/** What {@link forecastConche} works from. */
export interface ConcheProblem {
  stretches: readonly ConcheStretch[];
  tastings: readonly SournessTaste[];
  /** Wanted sourness, 0–10. */
  aim: number;
  /** Rate known of this lot from earlier batches; the usual range where left out. */
  rate?: { median: number; factor: number };
  seed?: number;
}

const DRAWS = 400;

/**
 * Fits C = C∞ + (C0 − C∞)e^(−kτ) to sourness scores, τ the equivalent hours at 60 °C with an open lid, by maximum a posteriori
 * (ln k, C0 and C∞ with normal priors) and predicts when the aim is met if the last stretch goes on. Without tastings it
 * gives what the usual ranges say.
 *
 * @throws RangeError without a stretch, for a score or aim outside 0–10, or a time before the start
 */
export function forecastConche({
  stretches,
  tastings,
  aim,
  rate = CONCHE_DEFAULTS.rate,
  seed = 3,
}: ConcheProblem): ConcheForecast {
  requireNumbers({ stretches, tastings, aim, rate }, 'the conche');
  if (stretches.length === 0) throw new RangeError('a conche needs its temperature and its air');
  if (!(aim >= 0 && aim <= 10)) throw new RangeError('sourness is scored from 0 to 10');
  for (const t of tastings)
    if (!(t.score >= 0 && t.score <= 10) || !(t.hours >= 0))
      throw new RangeError('sourness is scored from 0 to 10, at or after the start');
  const { start, end, scoreU } = CONCHE_DEFAULTS;
  const centre = [Math.log(rate.median), start.mean, end.mean];
  const spread = [Math.log(rate.factor), start.sd, end.sd];
  const score = (p: readonly number[], tau: number) =>
    p[2]! + (p[1]! - p[2]!) * Math.exp(-Math.exp(p[0]!) * tau);
  const tasted = tastings.map((t) => ({ tau: equivalentHours(stretches, t.hours), score: t.score }));
  const fit = leastSquares({
    residuals: (p) => [
      ...tasted.map((t) => (score(p, t.tau) - t.score) / scoreU),
      ...p.map((v, i) => (v - centre[i]!) / spread[i]!),
    ],
    start: centre,
    scale: [1, 1, 1],
  });
  const { covariance } = fit;
  const symmetric = Matrix.add(covariance, covariance.transpose()).mul(0.5);
  const lower = new CholeskyDecomposition(symmetric).lowerTriangularMatrix;
  const random = seededRandom(seed);
  const draws = Array.from({ length: DRAWS }, () => {
    const e = [normalDraw(random), normalDraw(random), normalDraw(random)];
    return fit.parameters.map((m, i) => m + e.reduce((s, v, k) => s + (k <= i ? lower.get(i, k) * v : 0), 0));
  });
  const times = draws.map((p) => hoursFor(p, aim, stretches));
  const range = (values: number[]) => {
    const sorted = values.toSorted((a, b) => a - b);
    const pick = (q: number) => quantileOfSorted(sorted, q);
    return { median: pick(0.5), low: pick(0.1), high: pick(0.9) };
  };
  return {
    toAim: range(times),
    chanceMet: times.filter(Number.isFinite).length / times.length,
    at: (hours) => {
      const tau = equivalentHours(stretches, hours);
      return range(draws.map((p) => Math.min(10, Math.max(0, score(p, tau)))));
    },
    rate: Math.exp(fit.parameters[0]!),
    tastings: tastings.length,
  };
}

/** Clock hours after which sourness is at the aim. */
function hoursFor(p: readonly number[], aim: number, stretches: readonly ConcheStretch[]): number {
  const [lnK, c0, cEnd] = p as [number, number, number];
  if (c0 <= aim) return 0;
  if (cEnd >= aim) return Number.POSITIVE_INFINITY;
  let need = Math.log((c0 - cEnd) / (aim - cEnd)) / Math.exp(lnK);
  let hours = 0;
  for (const [i, s] of stretches.entries()) {
    const pace = acidRate(s.celsius, s.air, 1);
    if (i === stretches.length - 1 || need <= s.hours * pace) return hours + need / pace;
    need -= s.hours * pace;
    hours += s.hours;
  }
  return hours;
}
