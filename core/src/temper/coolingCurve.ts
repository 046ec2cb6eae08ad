import { localQuadratic, quantile, requireFinite, requireNumbers } from '../numerics/index.ts';
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
 * with too much has set already: it hardly slows. What the probe showed before it was put in, and after it was taken out, is no part of it.
 *
 * @returns null where nothing holds the cooling up, or the curve ends before it falls again
 * @throws RangeError for fewer than 20 readings, readings that go back in time or lie too far apart, and limits that are upside down
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
  const apart = medianOf(readings.slice(1).map((r, i) => r.seconds - readings[i]!.seconds));
  if (apart > COOLING_CURVE.furthestApart)
    throw new RangeError(
      `a cooling curve needs a reading every ${COOLING_CURVE.furthestApart} s at least, not every ${apart} s`,
    );
  const halfSeconds = Math.max(COOLING_CURVE.halfSeconds, COOLING_CURVE.halfByDistance * apart);
  if (!(last - first > 2 * halfSeconds))
    throw new RangeError(`a cooling curve takes more than ${2 * halfSeconds} s`);
  const points = readings.map((r) => ({ x: r.seconds, y: r.celsius }));
  const smoothed: CoolingCurve['smoothed'] = [];
  for (let s = first; s <= last + 1e-9; s += COOLING_CURVE.everySeconds) {
    const at = localQuadratic(points, s, halfSeconds);
    if (at) smoothed.push({ seconds: s, celsius: at.value, slope: at.slope * 60 });
  }
  // From where it cools fastest; the ends of a smoothed curve are the least certain of it.
  const fastest = smoothed.reduce((f, p, i) => (p.slope < smoothed[f]!.slope ? i : f), 0);
  const noise = slopeNoise(readings, smoothed, halfSeconds);
  const bend = Math.max(COOLING_CURVE.leastBend, 4 * noise);
  const coolsOnBelow = Math.min(COOLING_CURVE.coolsOnBelow, -4 * noise);
  // A probe that is lifted out warms as no sample does.
  const lifted = smoothed.findIndex((p, i) => i > fastest && p.slope > COOLING_CURVE.fastestRise);
  const end = lifted < 0 ? smoothed.length : lifted;
  let best: { i: number; falls: number } | null = null;
  let lowest = Infinity;
  for (let i = end - 2; i > fastest; i -= 1) {
    const here = smoothed[i]!.slope;
    lowest = Math.min(lowest, smoothed[i + 1]!.slope);
    if (here < smoothed[i - 1]!.slope || here < smoothed[i + 1]!.slope) continue;
    const falls = here - lowest;
    if (falls >= bend && lowest < coolsOnBelow && (!best || falls > best.falls)) best = { i, falls };
  }
  if (best === null) return null;
  const { seconds, celsius, slope } = smoothed[best.i]!;
  const verdict = slope > risingAbove ? 'under' : slope < fallingBelow ? 'over' : 'good';
  return { seconds, celsius, slope, verdict, smoothed };
}

const medianOf = (values: readonly number[]) => quantile(values, 0.5);

/** A normal distribution's standard deviation by its median absolute deviation. */
const SD_OF_MEDIAN = 1.4826;

/** Standard error of a smoothed slope, °C/min, from how far most readings lie off the smoothed curve. */
function slopeNoise(
  readings: readonly BowlReading[],
  smoothed: CoolingCurve['smoothed'],
  halfSeconds: number,
): number {
  const { everySeconds } = COOLING_CURVE;
  const first = smoothed[0]!.seconds;
  const off = readings.flatMap((r) => {
    const near = smoothed[Math.round((r.seconds - first) / everySeconds)];
    return near ? [Math.abs(r.celsius - near.celsius)] : [];
  });
  const sd = off.length > 0 ? SD_OF_MEDIAN * medianOf(off) : 0;
  const span = readings.at(-1)!.seconds - readings[0]!.seconds;
  const within = Math.max(3, (2 * halfSeconds * readings.length) / span);
  // Of a straight line through evenly spread points with tricube weights.
  return (60 * sd * Math.sqrt(6 / within)) / halfSeconds;
}
