import { CholeskyDecomposition, inverse, Matrix } from 'ml-matrix';
import { leastSquares, requireNotBelow0 } from '../numerics/index.ts';
import type { Bean } from './bean.ts';
import type { BeanReading } from './dose.ts';
import { shared, USUAL_MISSES } from './misses.ts';
import { BETWEEN, LEARNT, OVEN_PRIOR_SD, PROBE_SD, shiftOven, START_SD, type Oven } from './oven.ts';
import { planMinutes, type RoastPlan } from './plan.ts';
import { runAt, simulateRoast, type RoastEvent, type RoastRun } from './simulate.ts';
import { fromBeansIn } from './turningPoint.ts';

/** A roast that was logged: what went in, what was set, what was done, what the probes read. */
export interface LoggedRoast {
  bean: Bean;
  plan: RoastPlan;
  loadKg: number;
  roomC?: number;
  events: readonly RoastEvent[];
  /** Bean and oven probe in order of time; either may be empty. */
  beanReadings: readonly BeanReading[];
  ovenReadings: readonly BeanReading[];
}

/** What an oven's roasts have taught about it. */
export interface OvenLearning {
  oven: Oven;
  /** Shifts from the oven started from, in the order of {@link LEARNT}. */
  shifts: number[];
  /** Covariance of the shifts. */
  covariance: number[][];
  /** Each figure with its standard uncertainty, in its own unit. */
  figures: { name: (typeof LEARNT)[number]; value: number; u: number }[];
  roasts: number;
  /** Of those, in how many hands noted that they stirred. */
  stirred: number;
  /** Root mean square of bean probe less model over the roasts learnt from, K. */
  rms: number;
}

/**
 * Whether stirs to come are to be reckoned with beside what an oven has taught: as long as it has taught nothing, and where hands note them. Where
 * they stir without a word, or not at all, what the oven has taught holds that already, and reckoned again it is an eighth of the dose too little.
 */
export function reckonsStirs({ roasts, stirred }: Pick<OvenLearning, 'roasts' | 'stirred'>): boolean {
  requireNotBelow0(roasts, 'the roasts learnt from');
  requireNotBelow0(stirred, 'the roasts that were stirred');
  return roasts === 0 || stirred > 0;
}

/** Standard uncertainty of a thinned reading against the model, K: probe noise, and what the model leaves out. For the first fit. */
const BEAN_U = 2;
const AIR_U = 4;

/** What a roast teaches counts as this much less sure, since the model’s law is itself only near the truth. */
const LAW_SLACK = 1.08;

/** Steps of the second fit; it starts where the first one ended. */
const REFINEMENTS = 3;

/** Coarser grid for fits: a tenth of a kelvin from the fine one. */
const COARSE = { shells: 10, step: 5, sampleEvery: 15 } as const;

/** Readings used of each probe of each roast. */
const USED = 40;

/**
 * Learns an oven from logged roasts: maximum a posteriori for heat transfer, heater power, thermostat lag and the
 * offset of the dial, by Levenberg–Marquardt over all roasts together with {@link OVEN_PRIOR_SD} as the prior. The readings of one
 * roast miss together (the roast differs from the oven's usual self, its probe from the mean bean, and neighbouring readings share
 * what the model leaves out), so that the uncertainty falls with the number of roasts and hardly with that of readings.
 * What a probe reads before it tells of the beans teaches nothing ({@link fromBeansIn}).
 * With no usable roast it gives the prior back. Roasts need three bean readings to count.
 */
export function learnOven(start: Oven, roasts: readonly LoggedRoast[]): OvenLearning {
  const usable = roasts
    .map(fromBeansIn)
    .filter((r) => r.beanReadings.length >= 3 && r.loadKg > 0)
    .map((r) => ({
      ...r,
      beanReadings: thinReadings(r.beanReadings),
      ovenReadings: thinReadings(r.ovenReadings),
    }));
  const priorCovariance = OVEN_PRIOR_SD.map((sd, i) => OVEN_PRIOR_SD.map((_, k) => (i === k ? sd * sd : 0)));
  if (usable.length === 0)
    return {
      ...describe(
        start,
        LEARNT.map(() => 0),
        priorCovariance,
      ),
      roasts: 0,
      stirred: 0,
      rms: Number.NaN,
    };
  const residuals = (shifts: readonly number[]) => [
    ...usable.flatMap((roast) => misfit(roast, replay(roast, shiftOven(start, shifts)))),
    ...shifts.map((s, i) => s / OVEN_PRIOR_SD[i]!),
  ];
  const fit = leastSquares({
    residuals,
    start: LEARNT.map(() => 0),
    lower: [-1.5, -1.5, -2.5, -30],
    upper: [1.5, 1.5, 2.5, 30],
    scale: [3, 3, 3, 300],
    maxIterations: 25,
  });
  const { shifts: learnt, covariance } = refine(start, usable, fit.parameters);
  const beans = usable.flatMap((r) => {
    const run = replay(r, shiftOven(start, learnt));
    return r.beanReadings.map((b) => (b.celsius - runAt(run, 'bean', b.seconds)) ** 2);
  });
  return {
    ...describe(start, learnt, covariance),
    roasts: usable.length,
    stirred: usable.filter((r) => r.events.some((e) => e.kind === 'stir')).length,
    rms: Math.sqrt(beans.reduce((a, b) => a + b, 0) / beans.length),
  };
}

/**
 * Goes on from a fit by generalised least squares: the readings of each roast have the covariance J B Jᵀ of its own shifts, that of
 * its probe, a first-order autoregression in time and their noise; Gauss–Newton with the prior.
 */
function refine(
  start: Oven,
  roasts: readonly LoggedRoast[],
  from: readonly number[],
): { shifts: number[]; covariance: number[][] } {
  let shifts = [...from];
  let covariance: number[][] = [];
  for (let step = 0; step < REFINEMENTS; step += 1) {
    const information = Matrix.diag(OVEN_PRIOR_SD.map((sd) => 1 / (sd * sd)));
    const pull = Matrix.columnVector(shifts.map((s, i) => -s / OVEN_PRIOR_SD[i]! ** 2));
    for (const roast of roasts) {
      const { missed, jacobian, starts } = linearised(start, roast, shifts);
      const weight = inverse(roastCovariance(roast, jacobian, starts)).div(LAW_SLACK ** 2);
      const JtW = jacobian.transpose().mmul(weight);
      information.add(JtW.mmul(jacobian));
      pull.add(JtW.mmul(Matrix.columnVector(missed)));
    }
    const inverted = inverse(information);
    covariance = inverted.to2DArray();
    shifts = shifts.map(
      (s, i) =>
        s +
        Math.max(-0.5, Math.min(0.5, inverted.getRowVector(i).mmul(pull).get(0, 0) / PULL[i]!)) * PULL[i]!,
    );
  }
  return { shifts, covariance };
}

/** Largest step of one refinement is half of this, in the units of the shifts. */
const PULL = [0.3, 0.3, 0.6, 8] as const;

/** Measured less modelled of every reading of a roast, how the model moves with each shift, and how with a kelvin of what it starts from. */
function linearised(
  start: Oven,
  roast: LoggedRoast,
  shifts: readonly number[],
): { missed: number[]; jacobian: Matrix; starts: Matrix } {
  const at = (s: readonly number[], from?: StartShift) => {
    const run = replay(roast, shiftOven(start, s), from);
    return [
      ...roast.beanReadings.map((b) => runAt(run, 'bean', b.seconds)),
      ...roast.ovenReadings.map((b) => runAt(run, 'air', b.seconds)),
    ];
  };
  const here = at(shifts);
  const columns = shifts.map((_, i) => {
    const h = i === 3 ? 0.2 : 0.02;
    const moved = at(shifts.map((v, k) => (k === i ? v + h : v)));
    return moved.map((v, k) => (v - here[k]!) / h);
  });
  const measured = [...roast.beanReadings, ...roast.ovenReadings].map((r) => r.celsius);
  const starts = [
    { beanC: 1, airC: 0 },
    { beanC: 0, airC: 1 },
  ].map((from) => at(shifts, from).map((v, k) => v - here[k]!));
  return {
    missed: measured.map((m, k) => m - here[k]!),
    jacobian: new Matrix(columns).transpose(),
    starts: new Matrix(starts).transpose(),
  };
}

/** Covariance of a roast's readings about the oven's usual self. */
function roastCovariance(roast: LoggedRoast, jacobian: Matrix, starts: Matrix): Matrix {
  const between = Matrix.diag(BETWEEN.map((sd) => sd * sd));
  const start = Matrix.diag([START_SD.bean ** 2, START_SD.air ** 2]);
  const C = jacobian.mmul(between).mmul(jacobian.transpose());
  C.add(starts.mmul(start).mmul(starts.transpose()));
  const beans = roast.beanReadings.length;
  const all = [...roast.beanReadings, ...roast.ovenReadings];
  for (let i = 0; i < all.length; i += 1)
    for (let k = 0; k < all.length; k += 1) {
      const [isBean, alike] = [i < beans, i < beans === k < beans];
      if (!alike) continue;
      const { stray, noise } = USUAL_MISSES[isBean ? 'bean' : 'air'];
      const together = (isBean ? PROBE_SD ** 2 : 0) + stray ** 2 * shared(all[i]!.seconds - all[k]!.seconds);
      C.set(i, k, C.get(i, k) + together + (i === k ? noise ** 2 : 0));
    }
  return C;
}

function describe(start: Oven, shifts: number[], covariance: number[][]) {
  const oven = shiftOven(start, shifts);
  const figures = LEARNT.map((name, i) => {
    const sd = Math.sqrt(covariance[i]![i]!);
    return { name, value: oven[name], u: name === 'offset' ? sd : oven[name] * sd };
  });
  return { oven, shifts: [...shifts], covariance, figures };
}

/** At most {@link USED} readings, evenly taken. */
export function thinReadings(readings: readonly BeanReading[], count: number = USED): BeanReading[] {
  if (readings.length <= count) return [...readings];
  return Array.from(
    { length: count },
    (_, i) => readings[Math.round((i * (readings.length - 1)) / (count - 1))]!,
  );
}

/** By how much what is in the oven at the start is warmer than its first readings say, K. */
interface StartShift {
  beanC: number;
  airC: number;
}

/** Runs the model along a logged roast, as long as its probes did. */
export function replay(roast: LoggedRoast, oven: Oven, from: StartShift = { beanC: 0, airC: 0 }): RoastRun {
  const air = startAir(roast);
  const last = Math.max(roast.beanReadings.at(-1)?.seconds ?? 0, roast.ovenReadings.at(-1)?.seconds ?? 0);
  return simulateRoast({
    ...COARSE,
    bean: roast.bean,
    oven,
    plan: roast.plan,
    loadKg: roast.loadKg,
    roomC: startBean(roast) + from.beanC,
    airC: air === undefined ? undefined : air + from.airC,
    events: roast.events,
    until: Math.min(Math.max(last, 60) + 15, 6 * 3600),
  });
}

/** Beans go in at what their probe first reads, if it reads early and sensibly; else at room temperature. */
function startBean({ beanReadings, roomC = 21 }: LoggedRoast): number {
  const first = beanReadings[0];
  return first && first.seconds <= 10 && first.celsius > 0 && first.celsius < 45 ? first.celsius : roomC;
}

function startAir({ ovenReadings }: LoggedRoast): number | undefined {
  const first = ovenReadings[0];
  return first && first.seconds <= 45 ? first.celsius : undefined;
}

function misfit(roast: LoggedRoast, run: RoastRun): number[] {
  return [
    ...roast.beanReadings.map((b) => (runAt(run, 'bean', b.seconds) - b.celsius) / BEAN_U),
    ...roast.ovenReadings.map((b) => (runAt(run, 'air', b.seconds) - b.celsius) / AIR_U),
  ];
}

/** How far off the forecast of one time was. */
export interface TargetError {
  predictedSeconds: number;
  measuredSeconds: number;
}

/**
 * When the model says the beans reach `targetC`, and when the probe said so, both in seconds; null where either never
 * gets there. The measure by which a learnt oven must beat an unlearnt one on roasts it has not seen.
 */
export function timeToTarget(logged: LoggedRoast, oven: Oven, targetC: number): TargetError | null {
  const roast = fromBeansIn(logged);
  const measured = crossing(
    roast.beanReadings.map((r) => [r.seconds, r.celsius] as const),
    targetC,
  );
  const run = simulateRoast({
    ...COARSE,
    bean: roast.bean,
    oven,
    plan: roast.plan,
    loadKg: roast.loadKg,
    roomC: startBean(roast),
    airC: startAir(roast),
    events: roast.events,
    until: (planMinutes(roast.plan) + 20) * 60,
  });
  const predicted = crossing(
    Array.from(run.seconds, (s, i) => [s, run.bean[i]!] as const),
    targetC,
  );
  return measured === null || predicted === null
    ? null
    : { predictedSeconds: predicted, measuredSeconds: measured };
}

/** First time a line of points reaches a height, straight between points; null where it does not. */
export function crossing(
  points: readonly (readonly [x: number, y: number])[],
  height: number,
): number | null {
  for (let i = 0; i < points.length; i += 1) {
    const [x, y] = points[i]!;
    if (y < height) continue;
    if (i === 0) return x;
    const [px, py] = points[i - 1]!;
    return py >= height || y === py ? x : px + ((x - px) * (height - py)) / (y - py);
  }
  return null;
}

/** Lower triangular factor of a covariance, with a hair added to its diagonal where rounding has made it flat. */
export function factorOf(covariance: readonly (readonly number[])[]): Matrix {
  // Rounding leaves the two halves a hair apart.
  const matrix = new Matrix(covariance.map((row, i) => row.map((v, k) => (v + covariance[k]![i]!) / 2)));
  for (let jitter = 0; jitter < 8; jitter += 1) {
    const cholesky = new CholeskyDecomposition(matrix);
    if (cholesky.isPositiveDefinite()) return cholesky.lowerTriangularMatrix;
    for (let i = 0; i < matrix.rows; i += 1)
      matrix.set(i, i, matrix.get(i, i) * (1 + 10 ** (jitter - 9)) + 1e-12);
  }
  return Matrix.diag(matrix.diagonal().map((v) => Math.sqrt(Math.max(0, v))));
}
