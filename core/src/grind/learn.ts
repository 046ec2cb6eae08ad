import { inverse, Matrix } from 'ml-matrix';
import { studentQuantile } from '../numerics/index.ts';
import { RUN_FACTOR, USUAL_GRIND_PRIOR, type GrindPrior, type LogNormalPrior } from './defaults.ts';
import type { LearnedRun } from './forecast.ts';

const NAMES = ['rate', 'finest', 'coarse'] as const;

/** Runs' worth of trust in the usual spread between runs. */
const SPREAD_TRUST = 6;

const ROUNDS = 12;

/**
 * Prior of the next run on a machine from its earlier ones. The logarithms θ of a run's three numbers lie about the machine's own
 * level μ with a spread S between runs, and μ lies in the trade's usual range. Each earlier run gives what its readings alone say (its
 * prior is taken out of its fit again); μ and S follow by expectation–maximisation with S shrunk towards the usual spread
 * (normal hierarchy; Gelman et al., Bayesian Data Analysis, ch. 15). Without runs it is the usual prior.
 */
export function learnPrior(runs: readonly LearnedRun[], usual: GrindPrior = USUAL_GRIND_PRIOR): GrindPrior {
  if (runs.length === 0) return usual;
  const logs = (pick: (p: LogNormalPrior) => number, prior: GrindPrior) =>
    NAMES.map((n) => Math.log(pick(prior[n])));
  const centre = logs((p) => p.median, usual);
  const usualRun = NAMES.map((n) => Math.log(RUN_FACTOR[n]) ** 2);
  // The usual range is that of any run on any machine: what remains when the spread between runs is taken off is the machine's.
  const machine = logs((p) => p.factor, usual).map((s, i) => Math.max(0.05 ** 2, s ** 2 - usualRun[i]!));
  const told = runs.map((run) => {
    const prior = Matrix.diag(logs((p) => p.factor, run.prior).map((s) => 1 / s ** 2));
    const whole = new Matrix(run.precision.map((r) => [...r]));
    const priorCentre = Matrix.columnVector(logs((p) => p.median, run.prior));
    return {
      precision: Matrix.sub(whole, prior),
      pull: Matrix.sub(whole.mmul(Matrix.columnVector([...run.logs])), prior.mmul(priorCentre)),
    };
  });
  let spread = usualRun;
  let level = centre;
  let unsure = machine;
  for (let round = 0; round < ROUNDS; round += 1) {
    const S = Matrix.diag(spread.map((v) => 1 / v));
    // A run tells of the level what is left after its own difference from it: S⁻¹(Λ + S⁻¹)⁻¹Λ.
    let weight = Matrix.diag(machine.map((v) => 1 / v));
    let sum = weight.mmul(Matrix.columnVector(centre));
    const inner = told.map((t) => inverse(Matrix.add(t.precision, S)));
    told.forEach((t, i) => {
      const share = S.mmul(inner[i]!);
      weight = Matrix.add(weight, share.mmul(t.precision));
      sum = Matrix.add(sum, share.mmul(t.pull));
    });
    const covariance = inverse(weight);
    level = covariance.mmul(sum).to1DArray();
    unsure = covariance.diagonal();
    const pull = S.mmul(Matrix.columnVector(level));
    const squares = [0, 0, 0];
    told.forEach((t, i) => {
      const theta = inner[i]!.mmul(Matrix.add(t.pull, pull)).to1DArray();
      squares.forEach((_, k) => (squares[k]! += (theta[k]! - level[k]!) ** 2 + inner[i]!.get(k, k)));
    });
    spread = squares.map((s, k) => (SPREAD_TRUST * usualRun[k]! + s) / (SPREAD_TRUST + runs.length));
  }
  const learned = (k: number): LogNormalPrior => ({
    median: Math.exp(level[k]!),
    factor: Math.exp(Math.sqrt(spread[k]! + unsure[k]!)),
  });
  return { rate: learned(0), finest: learned(1), coarse: learned(2), runs: runs.length };
}

/** How a machine's rate changes over its runs. */
export interface WearTrend {
  /** Change of the rate a year, as a share; negative when it falls. */
  perYear: number;
  low: number;
  high: number;
  /** Whether the whole 95 % interval lies below 0: the stones wear. */
  wears: boolean;
}

/** Runs needed before a trend is spoken of. */
export const WEAR_RUNS_NEEDED = 6;

const YEAR = 365.25 * 86_400_000;

/** Straight line through ln k over time with its 95 % interval (Student's t); null below six runs or when all are of one day. Times epoch ms. */
export function wearTrend(runs: readonly { at: number; rate: number }[]): WearTrend | null {
  if (runs.length < WEAR_RUNS_NEEDED) return null;
  const xs = runs.map((r) => r.at / YEAR);
  const ys = runs.map((r) => Math.log(r.rate));
  const n = runs.length;
  const [mx, my] = [xs.reduce((a, b) => a + b, 0) / n, ys.reduce((a, b) => a + b, 0) / n];
  const sxx = xs.reduce((s, x) => s + (x - mx) ** 2, 0);
  if (!(sxx > 1e-6)) return null;
  const slope = xs.reduce((s, x, i) => s + (x - mx) * (ys[i]! - my), 0) / sxx;
  const rest = ys.reduce((s, y, i) => s + (y - my - slope * (xs[i]! - mx)) ** 2, 0);
  const half = studentQuantile(0.975, n - 2) * Math.sqrt(rest / (n - 2) / sxx);
  const share = (v: number) => Math.expm1(v);
  return {
    perYear: share(slope),
    low: share(slope - half),
    high: share(slope + half),
    wears: slope + half < 0,
  };
}
