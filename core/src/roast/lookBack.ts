import { normalQuantile } from '../numerics/index.ts';
import { seriesAt } from './compare.ts';
import { beanExpectedAt, forecastRoast } from './forecast.ts';
import type { LoggedRoast } from './logged.ts';
import type { Oven } from './oven.ts';
import { fromBeansIn } from './turningPoint.ts';

/** How far ahead of its last reading a finished roast is foretold again, s, and how much of it must have run by then. */
export const LOOKED_AHEAD = 600;
const RUN_BEFORE = 240;

const HALF = normalQuantile(0.9);

/**
 * What would have been expected of the beans' last temperature ten minutes before it was read, by the readings up to then and an oven nobody had
 * learned: mean and standard deviation, °C, and what the probe then read.
 *
 * @returns null for a roast too short to have been foretold, or without readings
 * @throws RangeError as {@link forecastRoast}
 */
export function foretoldRoast(
  logged: LoggedRoast,
  oven: Oven,
): { mean: number; sd: number; actual: number } | null {
  const roast = fromBeansIn(logged);
  const end = roast.beanReadings.at(-1)?.seconds ?? 0;
  const now = end - LOOKED_AHEAD;
  if (now < RUN_BEFORE || roast.beanReadings.filter((r) => r.seconds <= now).length < 4) return null;
  const { median, low, high } = beanExpectedAt(forecastRoast({ ...roast, oven, now }), end);
  const actual = seriesAt(roast.beanReadings, end);
  return actual === null || !(high > low) ? null : { mean: median, sd: (high - low) / (2 * HALF), actual };
}
