import { inverse, Matrix } from 'ml-matrix';
import { normalQuantile, requireAbove0, requireFinite } from '../numerics/index.ts';
import type { Bean } from './bean.ts';
import type { Ranged } from './forecast.ts';
import type { OvenLearning } from './learn.ts';
import { thinReadings, type LoggedRoast } from './logged.ts';
import { BETWEEN } from './oven.ts';
import { addProbes, linearised, measured, ownCovariance, readOff, replay } from './replay.ts';
import { lossAt, type RoastRun } from './simulate.ts';
import { fromBeansIn } from './turningPoint.ts';

/** A load that was weighed in and out. */
export interface WeighedRoast extends LoggedRoast {
  /** When the beans came out, seconds after they went in. */
  outSeconds: number;
  /** Share of its mass that it lost, 0–1. */
  lossShare: number;
}

/** What loads of a lot have taught about its beans. */
export interface BeanLearning {
  bean: Bean;
  /** Loads learnt from. */
  loads: number;
}

/** Most loads learnt from, the first ones given; more would teach little. */
const MOST = 6;

/** Readings used of each probe of each load. */
const USED = 16;

/** By how much loads of the same beans differ in what they lose, one standard deviation: their water, the scale, crumbs on the tray. */
const LOAD_SD = 0.002;

/** A load further than this from what was to be expected, in standard deviations, is likely a weight gone wrong, and teaches little. */
const ODD = 2.5;

/** Steps of the fit; what a load loses is nearly straight in both. */
const STEPS = 2;

/** Steps of the differences: kg/kg, and of the logarithm of the drying rate. */
const STEP = [0.002, 0.05] as const;

/** Largest step of the fit, in the same units. */
const PULL = [0.02, 0.4] as const;

/**
 * Learns how wet a lot's beans are, and how fast they dry, from what its loads lost: maximum a posteriori by Gauss–Newton, each load
 * with the doubt that its oven and its probes leave (what the readings say of that is counted). The two can hardly be told apart by
 * loads that were roasted alike, which the correlation then says.
 *
 * @param prior the beans as the lot's facts say, with how far they may be off
 * @param loads loads of that lot in this oven; those without a time, a load or a sensible loss teach nothing
 * @param learning what is known of the oven
 * @throws RangeError for a loss that is no number, or beans of which nothing is left to learn
 */
export function learnBeans(
  prior: Bean,
  loads: readonly WeighedRoast[],
  learning: Pick<OvenLearning, 'oven' | 'covariance'>,
): BeanLearning {
  requireAbove0(prior.moistureSd, 'how far the moisture may be off');
  requireAbove0(prior.dryingLogSd, 'how far the drying rate may be off');
  for (const load of loads) {
    requireFinite(load.lossShare, 'the share a load lost');
    requireFinite(load.outSeconds, 'the time of beans-out');
  }
  const usable = loads
    .filter((l) => l.loadKg > 0 && l.outSeconds > 0 && l.lossShare > 0 && l.lossShare < MOST_LOST)
    .slice(0, MOST)
    .map(usableOf);
  if (usable.length === 0 || prior.dryingRate === 0) return { bean: prior, loads: 0 };
  const before = priorOf(prior);
  let at = [0, 0];
  let covariance = before;
  for (let step = 0; step < STEPS; step += 1) {
    const information = inverse(before);
    const pull = information.mmul(Matrix.columnVector(at)).neg();
    for (const load of usable) {
      const { missed, moves, variance } = lossOf(load, moved(prior, at), learning);
      // As the loads together say by now: of many that agree, one that does not stands out.
      const doubt = variance + moves.mmul(covariance).mmul(moves.transpose()).get(0, 0);
      const odd = missed / Math.sqrt(doubt);
      const weight = 1 / (1 + (odd / ODD) ** 2) / variance;
      information.add(moves.transpose().mmul(moves).mul(weight));
      pull.add(moves.transpose().mul(missed * weight));
    }
    covariance = inverse(information);
    const go = covariance.mmul(pull);
    at = at.map((v, i) => v + Math.max(-PULL[i]!, Math.min(PULL[i]!, go.get(i, 0))));
  }
  const [wet, dry] = [covariance.get(0, 0), covariance.get(1, 1)];
  return {
    bean: {
      ...moved(prior, at),
      moistureSd: Math.sqrt(wet),
      dryingLogSd: Math.sqrt(dry),
      dryingMoisture: covariance.get(0, 1) / Math.sqrt(wet * dry),
    },
    loads: usable.length,
  };
}

/**
 * What a load that was weighed was to lose, by its readings, its oven and its beans, with the range of 80 %: what was weighed is not
 * looked at.
 *
 * @param bean the lot's beans, best as its other loads have taught
 * @throws RangeError for a load not above 0, or a time of beans-out that is not above 0
 */
export function expectedLoss(
  load: Omit<WeighedRoast, 'lossShare'>,
  bean: Bean,
  learning: Pick<OvenLearning, 'oven' | 'covariance'>,
): Ranged {
  requireAbove0(load.loadKg, 'the load');
  requireAbove0(load.outSeconds, 'the time of beans-out');
  const { missed, moves, variance } = lossOf(usableOf({ ...load, lossShare: 0 }), bean, learning);
  const sd = Math.sqrt(variance + moves.mmul(priorOf(bean)).mmul(moves.transpose()).get(0, 0));
  const half = normalQuantile(0.9) * sd;
  const low = Math.max(0, -missed - half);
  return { median: Math.max(low, -missed), low, high: Math.max(low, half - missed) };
}

/** What no roast of dried beans loses, as a share of its mass. */
const MOST_LOST = 0.25;

/** A load with what is used of its readings. */
function usableOf(load: WeighedRoast): WeighedRoast {
  const own = fromBeansIn(load);
  return {
    ...own,
    beanReadings: thinReadings(own.beanReadings, USED),
    ovenReadings: thinReadings(own.ovenReadings, USED),
  };
}

/** Covariance of moisture and logarithm of the drying rate beforehand. */
function priorOf({ moistureSd, dryingLogSd, dryingMoisture }: Bean): Matrix {
  const both = dryingMoisture * moistureSd * dryingLogSd;
  return new Matrix([
    [moistureSd ** 2, both],
    [both, dryingLogSd ** 2],
  ]);
}

const moved = (bean: Bean, [wetter, faster]: readonly number[]): Bean => ({
  ...bean,
  moisture: Math.max(0.005, bean.moisture + wetter!),
  dryingRate: bean.dryingRate * Math.exp(faster!),
});

/**
 * By how much a load lost more than the model expects of such beans once its readings have told of the oven, how that moves with the beans,
 * and its variance.
 */
function lossOf(
  load: WeighedRoast,
  bean: Bean,
  { oven, covariance }: Pick<OvenLearning, 'oven' | 'covariance'>,
): { missed: number; moves: Matrix; variance: number } {
  const of = (beans: Bean) => {
    const roast = { ...load, bean: beans };
    const values = (run: RoastRun) => [...readOff(roast, run), lossAt(run, beans.moisture, load.outSeconds)];
    return { roast, values };
  };
  const { roast, values } = of(bean);
  const none = covariance.map(() => 0);
  const until = load.outSeconds + 15;
  const said = linearised(oven, roast, none, values, until);
  const byBean = STEP.map((h, i) => {
    const other = of(moved(bean, i === 0 ? [h, 0] : [0, h]));
    const there = other.values(replay(other.roast, oven, { until }));
    return there.map((v, k) => (v - said.here[k]!) / h);
  });
  const own = Matrix.add(new Matrix(covariance as number[][]), Matrix.diag(BETWEEN.map((sd) => sd * sd)));
  const C = ownCovariance(said, own);
  addProbes(C, roast);
  const last = C.rows - 1;
  const loss = C.get(last, last) + LOAD_SD ** 2;
  const missed = [...measured(roast), load.lossShare].map((m, k) => m - said.here[k]!);
  if (last === 0)
    return { missed: missed[0]!, moves: new Matrix([byBean.map((b) => b[0]!)]), variance: loss };
  const ofReadings = C.subMatrix(last, last, 0, last - 1);
  const gain = ofReadings.mmul(inverse(C.subMatrix(0, last - 1, 0, last - 1)));
  const beyond = (all: readonly number[]) =>
    all[last]! - gain.mmul(Matrix.columnVector(all.slice(0, last))).get(0, 0);
  return {
    missed: beyond(missed),
    moves: new Matrix([byBean.map(beyond)]),
    variance: loss - gain.mmul(ofReadings.transpose()).get(0, 0),
  };
}
