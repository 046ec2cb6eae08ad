import { seededRandom, normalDraw } from '@wunsch/core/numerics';
import {
  crystallise,
  plannedPath,
  TEMPER_PATHS,
  temperatureAt,
  type BowlCorner,
  type ChocolateType,
  type SeedAdded,
  type TemperMethod,
  type TemperVerdict,
} from '@wunsch/core/temper';

/** A bowl nobody sees into: how it is really stirred, how far its probe is off, and how it follows the hand. */
export interface HiddenBowl {
  stirring: number;
  probeOff: number;
  /** Time constant with which it follows the hand, s. */
  lag: number;
}

/** The hidden figures of a seed. */
export function hiddenBowl(seed: number): HiddenBowl {
  const random = seededRandom(seed);
  return {
    stirring: 0.6 + 0.4 * random(),
    probeOff: 0.25 * normalDraw(random),
    lag: 20 + 40 * random(),
  };
}

/** How a simulated bowl is tempered. */
export interface BowlRun {
  type: ChocolateType;
  method: TemperMethod;
  seed: number;
  /** Share of readings that are not sent, and of those that are spikes. */
  dropout: number;
  spikes: number;
  hidden?: HiddenBowl;
}

/** A simulated bowl: what its probe says at a second, null where it is silent; how long it goes on; and what is really in it. */
export function simulatedBowl({ type, method, seed, dropout, spikes, hidden = hiddenBowl(seed) }: BowlRun): {
  read: (seconds: number) => number | null;
  seconds: number;
  verdictAt: (seconds: number) => TemperVerdict;
} {
  const plan = plannedPath(TEMPER_PATHS[type], method, 24);
  const length = plan.at(-1)!.minutes * 60;
  // The bowl follows the hand with a lag.
  const step = 5;
  const truth: BowlCorner[] = [];
  let celsius = plan[0]!.celsius;
  for (let s = 0; s <= length; s += step) {
    truth.push({ minutes: s / 60, celsius, stirring: hidden.stirring });
    celsius += (temperatureAt(plan, s / 60) - celsius) * (1 - Math.exp(-step / hidden.lag));
  }
  const random = seededRandom(seed + 1);
  const seeds: SeedAdded[] =
    method === 'seed'
      ? [{ minutes: 20, share: 0.25, kind: 'solid' }]
      : method === 'butter-seed'
        ? [{ minutes: 31, share: 0.008, kind: 'butter' }]
        : [];
  return {
    seconds: length,
    read(seconds) {
      const [silent, spike, noise] = [random(), random(), normalDraw(random)];
      if (silent < dropout) return null;
      const read = temperatureAt(truth, seconds / 60) + hidden.probeOff + 0.08 * noise;
      return Math.round((spike < spikes ? read + 20 : read) * 10) / 10;
    },
    verdictAt(seconds) {
      const gone = truth.filter((p) => p.minutes * 60 <= seconds);
      return crystallise({ path: gone, seeds: seeds.filter((s) => s.minutes * 60 <= seconds), type }).verdict;
    },
  };
}
