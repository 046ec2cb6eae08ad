import { localQuadratic, requireFinite, requireNumbers } from '../numerics/index.ts';
import { COOLING_CURVE } from './defaults.ts';
import { withoutSpikes } from './spikes.ts';
import type { BowlReading } from './window.ts';

/** What a sample’s cooling curve says of the temper. */
export interface CoolingCurve {
  /** Where its cooling is most held up: seconds of its clock, °C, and the slope there, °C/min. */
  seconds: number;
  celsius: number;
  slope: number;
  /** Rising is under, level good, falling over. */
  verdict: 'under' | 'good' | 'over';
  /** The curve smoothed, and its slope, °C/min, at even times. */
  smoothed: { seconds: number; celsius: number; slope: number }[];
}

/** Slopes between which a curve counts as level, °C/min; the workshop’s own. */
export interface CurveLimits {
  fallingBelow: number;
  risingAbove: number;
}

/**
 * Judges a small sample cooled in a cold block: after smoothing (local quadratic, {@link COOLING_CURVE}), the slope at the inflection where
 * the heat of setting holds its cooling up most. A sample with little seed sets late and all at once: its temperature rises again. One
 * with too much has set already: it hardly slows.
 *
 * @returns null where nothing holds the cooling up, or the curve ends before it falls again
 * @throws RangeError for fewer than 20 readings, readings that go back in time and limits that are upside down
 */
export function coolingCurve(
  read: readonly BowlReading[],
  { fallingBelow, risingAbove }: CurveLimits = COOLING_CURVE.limits,
): CoolingCurve | null {
  requireNumbers(read, 'a reading');
  requireFinite(fallingBelow, 'the slope below which it falls');
  requireFinite(risingAbove, 'the slope above which it rises');
  if (fallingBelow >= risingAbove)
    throw new RangeError(`limits from ${fallingBelow} to ${risingAbove} are upside down`);
  if (read.length < 20)
    throw new RangeError(`a cooling curve needs 20 readings at least, not ${read.length}`);
  read.forEach((r, i) => {
    if (i > 0 && r.seconds < read[i - 1]!.seconds) throw new RangeError('the readings go back in time');
  });
  const readings = withoutSpikes(read);
  const [first, last] = [readings[0]!.seconds, readings.at(-1)!.seconds];
  if (!(last - first > 2 * COOLING_CURVE.halfSeconds))
    throw new RangeError(`a cooling curve takes more than ${2 * COOLING_CURVE.halfSeconds} s`);
  const points = readings.map((r) => ({ x: r.seconds, y: r.celsius }));
  const smoothed: CoolingCurve['smoothed'] = [];
  for (let s = first; s <= last + 1e-9; s += COOLING_CURVE.everySeconds) {
    const at = localQuadratic(points, s, COOLING_CURVE.halfSeconds);
    if (at) smoothed.push({ seconds: s, celsius: at.value, slope: at.slope * 60 });
  }
  // From where it cools fastest; the ends of a smoothed curve are the least certain of it.
  const fastest = smoothed.reduce((f, p, i) => (p.slope < smoothed[f]!.slope ? i : f), 0);
  const bend = Math.max(COOLING_CURVE.leastBend, 4 * slopeNoise(readings, smoothed));
  let best: { i: number; falls: number } | null = null;
  let lowest = Infinity;
  for (let i = smoothed.length - 2; i > fastest; i -= 1) {
    const here = smoothed[i]!.slope;
    lowest = Math.min(lowest, smoothed[i + 1]!.slope);
    if (here < smoothed[i - 1]!.slope || here < smoothed[i + 1]!.slope) continue;
    const falls = here - lowest;
    if (falls >= bend && (!best || falls > best.falls)) best = { i, falls };
  }
  if (best === null) return null;
  const { seconds, celsius, slope } = smoothed[best.i]!;
  const verdict = slope > risingAbove ? 'under' : slope < fallingBelow ? 'over' : 'good';
  return { seconds, celsius, slope, verdict, smoothed };
}

/** Standard error of a smoothed slope, °C/min, from how far readings lie off the smoothed curve. */
function slopeNoise(readings: readonly BowlReading[], smoothed: CoolingCurve['smoothed']): number {
  const { halfSeconds, everySeconds } = COOLING_CURVE;
  const first = smoothed[0]!.seconds;
  const off = readings.flatMap((r) => {
    const near = smoothed[Math.round((r.seconds - first) / everySeconds)];
    return near ? [(r.celsius - near.celsius) ** 2] : [];
  });
  const sd = Math.sqrt(off.reduce((a, b) => a + b, 0) / Math.max(1, off.length));
  const span = readings.at(-1)!.seconds - readings[0]!.seconds;
  const within = Math.max(3, (2 * halfSeconds * readings.length) / span);
  // Of a straight line through evenly spread points with tricube weights.
  return (60 * sd * Math.sqrt(6 / within)) / halfSeconds;
}
