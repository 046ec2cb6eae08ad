import { CholeskyDecomposition, inverse, Matrix } from 'ml-matrix';
import { leastSquares, requireNotBelow0 } from '../numerics/index.ts';
import { thinReadings, type LoggedRoast } from './logged.ts';
import { BETWEEN, LEARNT, OVEN_PRIOR_SD, shiftOven, type Oven } from './oven.ts';
import { planMinutes } from './plan.ts';
import { addProbes, linearised, measured, ownCovariance, readOff, replay } from './replay.ts';
import { runAt, type RoastRun } from './simulate.ts';
import { fromBeansIn } from './turningPoint.ts';

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
      const said = linearised(start, roast, shifts, (run) => readOff(roast, run));
      const C = ownCovariance(said, Matrix.diag(BETWEEN.map((sd) => sd * sd)));
      addProbes(C, roast);
      const JtW = said.jacobian.transpose().mmul(inverse(C).div(LAW_SLACK ** 2));
      information.add(JtW.mmul(said.jacobian));
      pull.add(JtW.mmul(Matrix.columnVector(measured(roast).map((m, k) => m - said.here[k]!))));
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

function describe(start: Oven, shifts: number[], covariance: number[][]) {
  const oven = shiftOven(start, shifts);
  const figures = LEARNT.map((name, i) => {
    const sd = Math.sqrt(covariance[i]![i]!);
    return { name, value: oven[name], u: name === 'offset' ? sd : oven[name] * sd };
  });
  return { oven, shifts: [...shifts], covariance, figures };
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
  const run = replay(roast, oven, { until: (planMinutes(roast.plan) + 20) * 60 });
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
