import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import { normalDraw, seededRandom } from '../numerics/index.ts';
import {
  READING_U_RELATIVE,
  READING_U_UM,
  READINGS_NEEDED,
  USUAL_GRIND_PRIOR,
  type GrindPrior,
} from './defaults.ts';

/** A grit reading of the running segment. */
export interface GritReading {
  /** Grinding hours since the last solid addition, pauses left out. */
  hours: number;
  /** Grit in µm, above 0. */
  um: number;
}

/** The three numbers of d(t) = d∞ + (d0 − d∞)·e^(−kt). */
export interface GrindCurve {
  rate: number;
  finest: number;
  coarse: number;
}

/** A time with its 80 % range, in grinding hours of the segment; Infinity where the aim may never come. */
export interface TimeRange {
  median: number;
  low: number;
  high: number;
}

/** What the readings say of the run, or how many more are needed. */
export type GrindForecast =
  | { ok: false; needs: number }
  | {
      ok: true;
      curve: GrindCurve;
      toAim: TimeRange;
      /** Share of plausible curves that reach the aim at all. */
      chanceReached: number;
      /** Grit at the given hours: median and 80 % range. */
      at: (hours: number) => TimeRange;
      prior: GrindPrior;
    };

/** What {@link forecastGrind} works from. */
export interface GrindProblem {
  readings: readonly GritReading[];
  aimUm: number;
  prior?: GrindPrior;
  /** Seed of the posterior draws; the same seed gives the same answer. */
  seed?: number;
}

const DRAWS = 600;
const CHANCE = 0.8;

/** Grit in µm after `hours` on a curve. */
export function gritAt(curve: GrindCurve, hours: number): number {
  return curve.finest + curve.coarse * Math.exp(-curve.rate * hours);
}

/** Grinding hours at which a curve reaches `aimUm`; 0 when it starts below, Infinity when it never does. */
export function hoursToAim(curve: GrindCurve, aimUm: number): number {
  if (aimUm <= curve.finest) return Number.POSITIVE_INFINITY;
  return Math.max(0, Math.log(curve.coarse / (aimUm - curve.finest)) / curve.rate);
}

/**
 * Fits the grinding curve by maximum a posteriori and predicts when the aim is reached.
 *
 * Works on the logarithms of k, d∞ and d0 − d∞ with normal priors and readings of standard uncertainty
 * √(1 µm² + (5 %)²); Gauss–Newton with Levenberg damping finds the mode, and draws from the Laplace
 * approximation, weighted to the true posterior, give the ranges. Below three readings it says how many more are needed.
 *
 * @throws RangeError for readings that are not above 0 µm or before the segment's start, or an aim not above 0
 */
export function forecastGrind({
  readings,
  aimUm,
  prior = USUAL_GRIND_PRIOR,
  seed = 1,
}: GrindProblem): GrindForecast {
  if (!(aimUm > 0)) throw new RangeError('the aim must be above 0 µm');
  for (const r of readings) {
    if (!(r.um > 0) || !Number.isFinite(r.um)) throw new RangeError(`a reading of ${r.um} µm is not above 0`);
    if (!(r.hours >= 0) || !Number.isFinite(r.hours))
      throw new RangeError('a reading lies before the last addition');
  }
  if (readings.length < READINGS_NEEDED) return { ok: false, needs: READINGS_NEEDED - readings.length };
  const model = new LogPosterior(readings, prior);
  const { mode, precision } = findMode(model);
  const draws = drawPosterior(model, mode, precision, seed);
  const times = draws.map((d) => ({ value: hoursToAim(d.curve, aimUm), weight: d.weight }));
  const reached = times.reduce((sum, t) => sum + (Number.isFinite(t.value) ? t.weight : 0), 0);
  return {
    ok: true,
    curve: toCurve(mode),
    toAim: range(times),
    chanceReached: reached,
    at: (hours) => range(draws.map((d) => ({ value: gritAt(d.curve, hours), weight: d.weight }))),
    prior,
  };
}

type Logs = [rate: number, finest: number, coarse: number];

const toCurve = ([a, b, c]: Logs): GrindCurve => ({
  rate: Math.exp(a),
  finest: Math.exp(b),
  coarse: Math.exp(c),
});

/** Residuals and their slopes; half the sum of squares is the negative log posterior. */
class LogPosterior {
  private readonly centres: Logs;
  private readonly spreads: Logs;

  constructor(
    private readonly readings: readonly GritReading[],
    prior: GrindPrior,
  ) {
    this.centres = [
      Math.log(prior.rate.median),
      Math.log(prior.finest.median),
      Math.log(prior.coarse.median),
    ];
    this.spreads = [
      Math.log(prior.rate.factor),
      Math.log(prior.finest.factor),
      Math.log(prior.coarse.factor),
    ];
  }

  get start(): Logs {
    return [...this.centres];
  }

  residuals(logs: Logs): { r: number[]; J: number[][] } {
    const { rate, finest, coarse } = toCurve(logs);
    const r: number[] = [];
    const J: number[][] = [];
    for (const { hours, um } of this.readings) {
      const u = Math.hypot(READING_U_UM, READING_U_RELATIVE * um);
      const fall = Math.exp(-rate * hours);
      r.push((finest + coarse * fall - um) / u);
      J.push([(-coarse * fall * rate * hours) / u, finest / u, (coarse * fall) / u]);
    }
    this.centres.forEach((centre, i) => {
      r.push((logs[i]! - centre) / this.spreads[i]!);
      J.push([0, 1, 2].map((j) => (i === j ? 1 / this.spreads[i]! : 0)));
    });
    return { r, J };
  }

  cost(logs: Logs): number {
    return this.residuals(logs).r.reduce((sum, v) => sum + v * v, 0) / 2;
  }
}

function findMode(model: LogPosterior): { mode: Logs; precision: Matrix } {
  let logs = model.start;
  let cost = model.cost(logs);
  let damping = 1e-2;
  for (let i = 0; i < 100; i += 1) {
    const { r, J } = model.residuals(logs);
    const Jm = new Matrix(J);
    const gradient = Jm.transpose().mmul(Matrix.columnVector(r));
    const hessian = Jm.transpose().mmul(Jm);
    const damped = Matrix.add(hessian, Matrix.diag(hessian.diagonal().map((d) => d * damping)));
    const step = new CholeskyDecomposition(damped).solve(gradient).to1DArray();
    const next = logs.map((l, j) => l - Math.max(-1, Math.min(1, step[j]!))) as Logs;
    const nextCost = model.cost(next);
    if (nextCost < cost) {
      const done = cost - nextCost < 1e-10;
      [logs, cost, damping] = [next, nextCost, damping / 4];
      if (done) break;
    } else {
      damping *= 6;
      if (damping > 1e12) break;
    }
  }
  const J = new Matrix(model.residuals(logs).J);
  return { mode: logs, precision: J.transpose().mmul(J) };
}

function drawPosterior(model: LogPosterior, mode: Logs, precision: Matrix, seed: number) {
  const random = seededRandom(seed);
  const upper = new CholeskyDecomposition(precision).lowerTriangularMatrix.transpose();
  const modeCost = model.cost(mode);
  const draws = Array.from({ length: DRAWS }, () => {
    const e = [normalDraw(random), normalDraw(random), normalDraw(random)];
    const offset = backSubstitute(upper, e);
    const logs = mode.map((m, i) => m + offset[i]!) as Logs;
    const proposal = e.reduce((sum, v) => sum + v * v, 0) / 2;
    // Importance weight, capped so that one far draw cannot carry the answer.
    const weight = Math.exp(Math.min(2, modeCost - model.cost(logs) + proposal));
    return { curve: toCurve(logs), weight };
  });
  const sum = draws.reduce((total, d) => total + d.weight, 0);
  return draws.map((d) => ({ ...d, weight: d.weight / sum }));
}

function backSubstitute(upper: Matrix, right: readonly number[]): number[] {
  const x = [...right];
  for (let i = x.length - 1; i >= 0; i -= 1) {
    for (let j = i + 1; j < x.length; j += 1) x[i]! -= upper.get(i, j) * x[j]!;
    x[i]! /= upper.get(i, i);
  }
  return x;
}

function range(weighted: { value: number; weight: number }[]): TimeRange {
  const sorted = weighted.toSorted((a, b) => a.value - b.value);
  const pick = (p: number) => {
    let sum = 0;
    for (const { value, weight } of sorted) {
      sum += weight;
      if (sum >= p) return value;
    }
    return sorted[sorted.length - 1]!.value;
  };
  return { median: pick(0.5), low: pick((1 - CHANCE) / 2), high: pick((1 + CHANCE) / 2) };
}
