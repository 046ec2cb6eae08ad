import { requireNumbers } from '../numerics/index.ts';
import { believable, type Bounds } from '../readings/index.ts';
import type { BeanReading } from './dose.ts';
import type { LoggedRoast } from './logged.ts';

/** A probe above this when the beans go in, °C, is hot from the oven; beans that warm by more than {@link FASTEST} are not known. */
const COOL = 45;

/** Fastest that beans warm, K/s. */
const FASTEST = 1;

/** A probe that has been heated with the oven is told by its first reading within so many seconds of beans-in. */
const EARLY = 60;

/** By then it has come down to the beans, s; and by how much it comes down at least, K. */
const LATEST = 360;
const LEAST_FALL = 5;

/** What has risen by so much since its first reading, K, does not come down. */
const RISEN = 2;

/** A minimum stands once it is so old, s, or the readings have risen so much from it, K. */
const STANDS = { seconds: 20, kelvin: 1.5 } as const;

/** How beans can warm and cool, as a probe among them shows it. */
export const BEAN_BOUNDS: Bounds = { slack: 6, fastest: 1.5, settles: 20 };

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
 * roasting that no bean has seen. Readings from before beans-in (negative seconds) are the oven's as well, unless there are no others. A probe that was cool tells of
 * the beans from the start. What no bean can have done, as a spark or a loose plug shows it, is left out ({@link believable}).
 *
 * @param readings in order of time, seconds since beans-in
 * @throws RangeError for readings that are no numbers
 */
export function beansOwn(readings: readonly BeanReading[]): BeansOwn {
  requireNumbers(readings, 'a reading');
  const own = sinceBeansIn(readings);
  // A hand reads a thermometer it has put into the beans.
  if (own.every((r) => r.byHand)) return { readings: [...own], turning: null, isFalling: false };
  const plain = own.map((r, i) => ({ ...r, celsius: middleOf(own, i) }));
  const first = plain[0];
  const asTheyAre = (): BeansOwn => ({
    readings: believable(own, BEAN_BOUNDS),
    turning: null,
    isFalling: false,
  });
  const falling: BeansOwn = { readings: [], turning: null, isFalling: true };
  if (!first || first.seconds > EARLY || first.celsius <= COOL + FASTEST * first.seconds) return asTheyAre();
  const early = plain.filter((r) => r.seconds <= LATEST);
  const lowest = early.reduce((a, b) => (b.celsius < a.celsius ? b : a));
  const last = plain.at(-1)!;
  // One that stays up is not in a falling bed: what it says stands, once that is seen.
  if (first.celsius - lowest.celsius < LEAST_FALL)
    return last.seconds - first.seconds > EARLY || last.celsius > first.celsius + RISEN
      ? asTheyAre()
      : falling;
  const stands =
    last.seconds - lowest.seconds >= STANDS.seconds || last.celsius - lowest.celsius >= STANDS.kelvin;
  if (!stands) return falling;
  const since = believable(own.slice(plain.indexOf(lowest)), BEAN_BOUNDS);
  return { readings: since, turning: since[0] ?? null, isFalling: false };
}

/** Readings from beans-in on; a log that lies before it as a whole was kept by another clock, and stays. */
function sinceBeansIn(readings: readonly BeanReading[]): readonly BeanReading[] {
  const since = readings.filter((r) => r.seconds >= 0);
  return since.length > 0 ? since : readings;
}

/** The middle of a reading and its neighbours, at the ends of the nearest three, °C. */
export function middleOf(readings: readonly BeanReading[], i: number): number {
  const from = Math.max(0, Math.min(i - 1, readings.length - 3));
  const three = readings.slice(from, from + 3).map((r) => r.celsius);
  return three.length < 3 ? readings[i]!.celsius : three.sort((a, b) => a - b)[1]!;
}

/** A logged roast with what its probes tell from beans-in on, as {@link beansOwn}; readings of a preheating oven are left out. */
export function fromBeansIn<R extends Pick<LoggedRoast, 'beanReadings' | 'ovenReadings'>>(roast: R): R {
  return {
    ...roast,
    beanReadings: beansOwn(roast.beanReadings).readings,
    ovenReadings: sinceBeansIn(roast.ovenReadings),
  };
}
