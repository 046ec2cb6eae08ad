import { CholeskyDecomposition, inverse } from 'ml-matrix';
import {
  leastSquares,
  normalDraw,
  requireAbove0,
  requireNotBelow0,
  requireNumbers,
  seededRandom,
} from '../numerics/index.ts';
import { READINGS_NEEDED, USUAL_GRIND_PRIOR, type GrindPrior } from './defaults.ts';
import { micrometerUncertainty } from './reading.ts';

/** A grit reading of a run. */
export interface GritReading {
  /** Grinding hours since the solid addition that began its segment, pauses left out. */
  hours: number;
  /** Grit in µm, above 0. */
  um: number;
  /** Standard uncertainty, µm; a micrometer's where left out. */
  uUm?: number;
  /** Segment, counted from 0; the largest is the one now running. 0 where left out. */
  segment?: number;
}

/** The three numbers of d(t) = d∞ + (d0 − d∞)·e^(−kt). */
export interface GrindCurve {
  rate: number;
  finest: number;
  coarse: number;
}

/** A time or grit with its 80 % range; Infinity where the aim may never come. */
export interface TimeRange {
  median: number;
  low: number;
  high: number;
}

/** A run as later ones learn from it: ln k, ln d∞ and ln (d0 − d∞) at the mode, their precision there (3 × 3), and the prior that is part of both. */
export interface LearnedRun {
  logs: readonly number[];
  precision: readonly (readonly number[])[];
  prior: GrindPrior;
}

/** What the readings say of the run, or how many more are needed. */
export type GrindForecast =
  | { ok: false; needs: number }
  | {
      ok: true;
      /** Curve of the segment now running. */
      curve: GrindCurve;
      /** What the next runs of the machine can learn from this one. */
      learned: LearnedRun;
      toAim: TimeRange;
      /** Share of plausible curves that reach the aim at all. */
      chanceReached: number;
      /** Grit at the given hours: median and 80 % range. */
      at: (hours: number) => TimeRange;
      /** When to read next: the hour, in `from`–`to`, after which the time to the aim is known best, and the share of its range that should then be left. */
      nextReading: (from: number, to: number) => { hours: number; rangeLeft: number };
      prior: GrindPrior;
    };

/** What {@link forecastGrind} works from. */
export interface GrindProblem {
  readings: readonly GritReading[];
  aimUm: number;
  prior?: GrindPrior;
  /** Segment now running, where it has no reading yet. */
  segment?: number;
  /** Seed of the posterior draws; the same seed gives the same answer. */
  seed?: number;
}

const DRAWS = 600;
const CHANCE = 0.8;

/** Draws are made this much wider than the Laplace approximation, so that the weights can find the posterior's long tails. */
const WIDER = 1.4;

/** Readings count as this much less sure than their instrument, since the law of the curve is itself only near the truth. */
const LAW_SLACK = 1.05;

/** Beyond this the time to the aim counts as never when the next reading is weighed up, h. */
const HORIZON = 240;

/** Grit in µm after `hours` on a curve. */
export function gritAt(curve: GrindCurve, hours: number): number {
  requireNumbers(curve, 'the curve');
  requireNotBelow0(hours, 'the hours');
  return curve.finest + curve.coarse * Math.exp(-curve.rate * hours);
}

/** Grinding hours at which a curve reaches `aimUm`; 0 when it starts below, Infinity when it never does. */
export function hoursToAim(curve: GrindCurve, aimUm: number): number {
  requireNumbers(curve, 'the curve');
  requireAbove0(aimUm, 'the aim');
  if (aimUm <= curve.finest) return Number.POSITIVE_INFINITY;
  return Math.max(0, Math.log(curve.coarse / (aimUm - curve.finest)) / curve.rate);
}

/**
 * Fits the grinding curve by maximum a posteriori and predicts when the aim is reached.
 *
 * The logarithms of k and d∞ are shared by all segments of the run, each segment having its own ln (d0 − d∞); all have normal
 * priors, readings their own standard uncertainty. Levenberg–Marquardt finds the mode, and draws from the Laplace approximation,
 * weighted to the true posterior, give the ranges. It needs three readings, one of them in the running segment.
 *
 * @throws RangeError for readings that are not above 0 µm or before their segment's start, or an aim not above 0
 */
export function forecastGrind({
  readings,
  aimUm,
  prior = USUAL_GRIND_PRIOR,
  segment,
  seed = 1,
}: GrindProblem): GrindForecast {
  requireNumbers({ aimUm, prior, segment, readings }, 'the grind');
  for (const r of readings) if (r.uUm !== undefined) requireAbove0(r.uUm, 'the uncertainty of a reading');
  if (!(aimUm > 0)) throw new RangeError('the aim must be above 0 µm');
  for (const r of readings) {
    if (!(r.um > 0) || !Number.isFinite(r.um)) throw new RangeError(`a reading of ${r.um} µm is not above 0`);
    if (!(r.hours >= 0) || !Number.isFinite(r.hours))
      throw new RangeError('a reading lies before the addition that began its segment');
  }
  const running = segment ?? Math.max(0, ...readings.map((r) => r.segment ?? 0));
  const here = readings.some((r) => (r.segment ?? 0) === running);
  const needs = Math.max(READINGS_NEEDED - readings.length, here ? 0 : 1);
  if (needs > 0) return { ok: false, needs };
  const posterior = new Posterior(readings, prior, running);
  const { mode, precision, upper } = posterior.findMode();
  // Whoever only learns from the run needs no draws.
  const drawn = once(() => posterior.draw(mode, upper, seed));
  const times = once(() => drawn().map((d) => ({ value: hoursToAim(d.curve, aimUm), weight: d.weight })));
  const toAim = once(() => range(times()));
  return {
    ok: true,
    curve: toCurve(mode),
    learned: { logs: mode.slice(0, 3), precision, prior },
    get toAim() {
      return toAim();
    },
    get chanceReached() {
      return times().reduce((sum, t) => sum + (Number.isFinite(t.value) ? t.weight : 0), 0);
    },
    at: (hours) => range(drawn().map((d) => ({ value: gritAt(d.curve, hours), weight: d.weight }))),
    nextReading: (from, to) => bestReading(drawn(), aimUm, from, to),
    prior,
  };
}

/**
 * How badly the best curve fits a run's readings, its priors among them: half the sum of squares at the mode. What two ways of telling the
 * same readings differ by is the logarithm of how much likelier the better one is.
 *
 * @throws RangeError for readings that are no numbers, none at all, or not above 0 µm
 */
export function grindMisfit(readings: readonly GritReading[], prior: GrindPrior = USUAL_GRIND_PRIOR): number {
  requireNumbers({ prior, readings }, 'the grind');
  if (readings.length === 0) throw new RangeError('a grind is judged by its readings');
  for (const r of readings) requireAbove0(r.um, 'a reading');
  const running = Math.max(...readings.map((r) => r.segment ?? 0));
  return new Posterior(readings, prior, running).findMode().misfit;
}

/** A value worked out when it is first asked for. */
function once<T>(make: () => T): () => T {
  let made: { value: T } | null = null;
  return () => (made ??= { value: make() }).value;
}

/** ln k, ln d∞, ln (d0 − d∞) of the running segment, then of the others. */
type Logs = readonly number[];

interface Draw {
  curve: GrindCurve;
  weight: number;
}

const toCurve = (logs: Logs): GrindCurve => ({
  rate: Math.exp(logs[0]!),
  finest: Math.exp(logs[1]!),
  coarse: Math.exp(logs[2]!),
});

class Posterior {
  private readonly centres: number[];
  private readonly spreads: number[];
  private readonly taken: { hours: number; um: number; weight: number; slot: number }[];

  constructor(readings: readonly GritReading[], prior: GrindPrior, running: number) {
    const others = [...new Set(readings.map((r) => r.segment ?? 0))].filter((s) => s !== running);
    const slots = new Map([running, ...others].map((s, i) => [s, 2 + i]));
    this.taken = readings.map(({ hours, um, uUm, segment = 0 }) => ({
      hours,
      um,
      weight: 1 / (LAW_SLACK * (uUm ?? micrometerUncertainty(um))),
      slot: slots.get(segment)!,
    }));
    const each = [prior.rate, prior.finest, ...[running, ...others].map(() => prior.coarse)];
    this.centres = each.map((p) => Math.log(p.median));
    this.spreads = each.map((p) => Math.log(p.factor));
  }

  /** Residuals whose half sum of squares is the negative log posterior. */
  private residuals(logs: Logs): number[] {
    const [rate, finest] = [Math.exp(logs[0]!), Math.exp(logs[1]!)];
    const r = this.taken.map(
      ({ hours, um, weight, slot }) => (finest + Math.exp(logs[slot]! - rate * hours) - um) * weight,
    );
    return [...r, ...logs.map((v, i) => (v - this.centres[i]!) / this.spreads[i]!)];
  }

  /** Half the sum of squares; written out, since every draw asks for it. */
  private cost(logs: Logs): number {
    const [rate, finest] = [Math.exp(logs[0]!), Math.exp(logs[1]!)];
    let sum = 0;
    for (const { hours, um, weight, slot } of this.taken)
      sum += ((finest + Math.exp(logs[slot]! - rate * hours) - um) * weight) ** 2;
    for (let i = 0; i < logs.length; i += 1) sum += ((logs[i]! - this.centres[i]!) / this.spreads[i]!) ** 2;
    return sum / 2;
  }

  /** The mode, its misfit, the precision of the running segment's three logarithms, and the root of the whole precision. */
  findMode(): { mode: number[]; precision: number[][]; upper: number[][]; misfit: number } {
    const reach = this.spreads.map((s) => 6 * s);
    const fit = leastSquares({
      residuals: (p) => this.residuals(p),
      start: this.centres,
      lower: this.centres.map((c, i) => c - reach[i]!),
      upper: this.centres.map((c, i) => c + reach[i]!),
      scale: this.centres.map(() => 1),
      maxIterations: 60,
    });
    const whole = fit.jacobian.transpose().mmul(fit.jacobian);
    return {
      mode: fit.parameters,
      misfit: fit.sumOfSquares / 2,
      // Of the running segment, whatever the others may be.
      precision: inverse(fit.covariance.subMatrix(0, 2, 0, 2)).to2DArray(),
      upper: new CholeskyDecomposition(whole).lowerTriangularMatrix.transpose().to2DArray(),
    };
  }

  /** Weighted draws around the mode. */
  draw(mode: readonly number[], upper: number[][], seed: number): Draw[] {
    const random = seededRandom(seed);
    const modeCost = this.cost(mode);
    const draws = Array.from({ length: DRAWS }, () => {
      const e = mode.map(() => normalDraw(random));
      const offset = backSubstitute(upper, e).map((v) => v * WIDER);
      const logs = mode.map((m, i) => m + offset[i]!);
      const proposal = e.reduce((sum, v) => sum + v * v, 0) / 2;
      // Importance weight against the wider proposal, capped so that one far draw cannot carry the answer.
      const weight = Math.exp(Math.min(4, modeCost - this.cost(logs) + proposal));
      return { curve: toCurve(logs), weight };
    });
    const sum = draws.reduce((total, d) => total + d.weight, 0);
    return draws.map((d) => ({ ...d, weight: d.weight / sum }));
  }
}

/** Readings are proposed at whole quarters of an hour. */
const EVERY = 0.25;

/** Share of what the best reading would gain at which an earlier one is taken. */
const WORTH = 0.9;

/**
 * The hour at which a reading tells most of the time to the aim: with time and grit jointly normal, a reading of uncertainty u leaves
 * Var T − Cov(T, d)²/(Var d + u²) (linear Bayes).
 */
function bestReading(
  draws: readonly Draw[],
  aimUm: number,
  from: number,
  to: number,
): { hours: number; rangeLeft: number } {
  const times = draws.map((d) => Math.min(HORIZON, hoursToAim(d.curve, aimUm)));
  const weighted = (values: readonly number[]) => values.reduce((s, v, i) => s + v * draws[i]!.weight, 0);
  const meanTime = weighted(times);
  const varTime = weighted(times.map((t) => (t - meanTime) ** 2));
  const leftAt = (hours: number) => {
    const grit = draws.map((d) => gritAt(d.curve, hours));
    const meanGrit = weighted(grit);
    const varGrit = weighted(grit.map((g) => (g - meanGrit) ** 2));
    const cov = weighted(grit.map((g, k) => (g - meanGrit) * (times[k]! - meanTime)));
    const gained = cov ** 2 / (varGrit + micrometerUncertainty(meanGrit) ** 2);
    return varTime > 0 ? Math.sqrt(Math.max(0, 1 - gained / varTime)) : 1;
  };
  const hours = [from];
  for (let h = Math.ceil(from / EVERY + 1e-9) * EVERY; h <= to; h += EVERY) hours.push(h);
  const tried = hours.map((h) => ({ hours: h, rangeLeft: leftAt(h) }));
  const least = Math.min(...tried.map((r) => r.rangeLeft));
  // Waiting longer for the last tenth is not worth it, and a flat best must not wander.
  return tried.find((r) => 1 - r.rangeLeft >= WORTH * (1 - least))!;
}

function backSubstitute(upper: readonly number[][], right: readonly number[]): number[] {
  const x = [...right];
  for (let i = x.length - 1; i >= 0; i -= 1) {
    for (let j = i + 1; j < x.length; j += 1) x[i]! -= upper[i]![j]! * x[j]!;
    x[i]! /= upper[i]![i]!;
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
