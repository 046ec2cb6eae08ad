import { requireNumbers } from '../numerics/index.ts';
import type { BeanReading } from './dose.ts';
import type { LoggedRoast } from './learn.ts';

/** A probe above this when the beans go in, °C, is hot from the oven; beans that warm by more than {@link FASTEST} are not known. */
const COOL = 45;

/** Fastest that beans warm, K/s. */
const FASTEST = 1;

/** A probe that has been heated with the oven is told by its first reading within so many seconds of beans-in. */
const EARLY = 60;

/** By then it has come down to the beans, s; and by how much it comes down at least, K. */
const LATEST = 360;
const LEAST_FALL = 5;

/** A minimum stands once it is so old, s, or the readings have risen so much from it, K. */
const STANDS = { seconds: 20, kelvin: 1.5 } as const;

/** What a bean probe's readings tell of the beans. */
export interface BeansOwn {
  /** The readings from where the probe tells of the beans; none while it still comes down to them. */
  readings: BeanReading[];
  /** Where a probe heated with the oven met the beans; null where it was cool when they went in, or has not come down yet. */
  turning: BeanReading | null;
  /** The probe still comes down. */
  isFalling: boolean;
}

/**
 * Parts what a bean probe says of the beans from what it says of the oven. A probe that sits in a preheated drum reads the drum when
 * cold beans go in, falls, and turns where it meets them as they warm: what lies before that turning point would count as
 * roasting that no bean has seen. Readings from before beans-in (negative seconds) are the oven's as well. A probe that was cool tells of
 * the beans from the start.
 *
 * @param readings in order of time, seconds since beans-in
 * @throws RangeError for readings that are no numbers
 */
export function beansOwn(readings: readonly BeanReading[]): BeansOwn {
  requireNumbers(readings, 'a reading');
  const own = readings.filter((r) => r.seconds >= 0);
  const first = own[0];
  const asTheyAre: BeansOwn = { readings: own, turning: null, isFalling: false };
  if (!first || first.seconds > EARLY || first.celsius <= COOL + FASTEST * first.seconds) return asTheyAre;
  const early = own.filter((r) => r.seconds <= LATEST);
  const lowest = early.reduce((a, b) => (b.celsius < a.celsius ? b : a));
  const last = own.at(-1)!;
  if (first.celsius - lowest.celsius < LEAST_FALL)
    // One that stays up is not in a falling bed: what it says stands, once that is seen.
    return last.seconds - first.seconds > EARLY
      ? asTheyAre
      : { readings: [], turning: null, isFalling: true };
  const stands =
    last.seconds - lowest.seconds >= STANDS.seconds || last.celsius - lowest.celsius >= STANDS.kelvin;
  if (!stands) return { readings: [], turning: null, isFalling: true };
  return { readings: own.slice(own.indexOf(lowest)), turning: lowest, isFalling: false };
}

/** A logged roast with what its probes tell from beans-in on, as {@link beansOwn}; readings of a preheating oven are left out. */
export function fromBeansIn<R extends Pick<LoggedRoast, 'beanReadings' | 'ovenReadings'>>(roast: R): R {
  return {
    ...roast,
    beanReadings: beansOwn(roast.beanReadings).readings,
    ovenReadings: roast.ovenReadings.filter((r) => r.seconds >= 0),
  };
}
