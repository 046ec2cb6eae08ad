import { normalDraw, seededRandom } from '../../numerics/index.ts';
import {
  expectedLoss,
  forecastRoast,
  learnBeans,
  learnOven,
  makeBean,
  makeOven,
  shiftOven,
  simulateRoast,
  STARTER_PLANS,
  type WeighedRoast,
} from '../../roast/index.ts';
import { DRIES, HIDDEN, WET } from './hidden.ts';
import { probed } from './probes.ts';
import { countIn, type StationScore } from './score.ts';

/** How one roast differs from another in the same oven, one load of a lot from another in its water (%), and what a scale and a tray add to a loss. */
const BETWEEN = [0.05, 0.04, 0.1, 1.2];
const LOAD_WATER = 0.15;
const WEIGHED = 0.0015;

const EVERY = 10;

/** Loads that have taught when the next one is asked for. */
const TAUGHT = [1, 3];

/**
 * Lots whose water and drying nobody has measured, roasted load by load: does the next load weigh what is foretold, and one that is out what was
 * to be expected of it? One lot a seed.
 */
export function scoreLots(seed: number, count: number): StationScore {
  const score: StationScore = { ranges: {}, warnings: {}, leadUnit: 's' };
  for (let k = 0; k < count; k += 1) roastLot(seed + k, score);
  return score;
}

function roastLot(seed: number, { ranges }: StationScore): void {
  const random = seededRandom(seed);
  const between = ({ from, to }: typeof WET) => from + (to - from) * random();
  const usual = makeOven({ usableKg: 3 });
  const hidden = HIDDEN.map((sd) => sd * normalDraw(random));
  const [wet, dries] = [between(WET), between(DRIES)];
  const plan = STARTER_PLANS[seed % 3]!;
  const roast = (): WeighedRoast & { truly: { loss: number; moisture: number } } => {
    const oven = shiftOven(
      usual,
      hidden.map((h, i) => h + BETWEEN[i]! * normalDraw(random)),
    );
    const bean = makeBean({ moisture: wet + LOAD_WATER * normalDraw(random) });
    bean.dryingRate *= dries;
    const common = { plan, loadKg: 1.5 + random(), events: [] };
    const run = simulateRoast({ ...common, bean, oven, sampleEvery: EVERY });
    return {
      ...common,
      bean: makeBean(),
      ...probed(random, run, EVERY),
      outSeconds: run.endSeconds,
      lossShare: run.lossShare + WEIGHED * normalDraw(random),
      truly: { loss: run.lossShare, moisture: run.moisture.at(-1)! },
    };
  };
  const loads = Array.from({ length: Math.max(...TAUGHT) }, roast);
  const next = roast();
  for (const n of TAUGHT) {
    const seen = loads.slice(0, n);
    const learning = learnOven(usual, seen);
    const { bean } = learnBeans(makeBean(), seen, learning);
    const { oven, covariance } = learning;
    const said = forecastRoast({
      ...next,
      bean,
      oven,
      covariance,
      beanReadings: [],
      ovenReadings: [],
      now: 0,
    });
    const { end } = said.lossShare;
    countIn(ranges, `loss, after ${n} of its loads`, next.truly.loss, end.low, end.high);
    const { low, high } = said.moisture.end;
    countIn(ranges, `moisture, after ${n} of its loads`, next.truly.moisture, low, high);
    const weighed = expectedLoss(next, bean, learning);
    countIn(
      ranges,
      `loss of a load that is out, after ${n} others`,
      next.lossShare,
      weighed.low,
      weighed.high,
    );
  }
}
