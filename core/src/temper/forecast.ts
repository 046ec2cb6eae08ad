import {
  evenNormals,
  lineThrough,
  quantileOfSorted,
  requireAbove0,
  requireFinite,
  requireNumbers,
} from '../numerics/index.ts';
import { BOWL_HABITS } from './defaults.ts';
import type { BowlReading } from './window.ts';

/** A bowl's temperature to come; a tenth of what may be lies below `low`, a tenth above `high`. */
export interface BowlForecast {
  points: { seconds: number; low: number; celsius: number; high: number }[];
  /** Pace now, °C/min. */
  pace: number;
  /** When a temperature is reached, seconds on the readings' clock; null where fewer than half of what may be reach it. */
  reaches: (celsius: number) => { low: number; middle: number; high: number } | null;
}

/**
 * Where a bowl is going if nothing is changed: it nears its surroundings exponentially (Newton's cooling), from the pace of its last
 * minutes. How far off the surroundings are, how steadily it is stirred and what the probe reads are not known exactly; many bowls
 * that might be this one give the range.
 *
 * @param roomC temperature of what surrounds it, °C, where it is known; water and ice are guessed from the pace
 * @returns null with fewer than three readings, or less than half a minute of them
 * @throws RangeError for readings that are no numbers and a horizon not above 0
 */
export function forecastBowl({
  readings,
  roomC = BOWL_HABITS.roomC,
  horizonSeconds = 1200,
  every = 15,
}: {
  readings: readonly BowlReading[];
  roomC?: number;
  horizonSeconds?: number;
  every?: number;
}): BowlForecast | null {
  requireNumbers(readings, 'a reading');
  requireFinite(roomC, 'the temperature of the room');
  requireAbove0(horizonSeconds, 'the horizon');
  requireAbove0(every, 'the time between points');
  const last = readings.at(-1);
  if (!last) return null;
  const near = readings.filter((r) => r.seconds >= last.seconds - BOWL_HABITS.paceSeconds);
  const span = last.seconds - near[0]!.seconds;
  if (near.length < 3 || span < 30) return null;
  const line = paceLine(near);
  if (!line) return null;
  const rising = line.slope > 0;
  const steady = Math.abs(line.slope) * 60 < BOWL_HABITS.steadyPace;
  const members = evenNormals(MEMBERS, 4).map((draws) => {
    const [a, b, c, d] = draws as [number, number, number, number];
    const from = line.at + a * line.sdAt;
    const slopeNow = line.slope + b * line.sdSlope;
    // Falling fast, it stands in water or ice rather than in air.
    const cold = Math.min(roomC, line.at + (line.slope * 60) / BOWL_HABITS.fastestInAir);
    const around = rising
      ? line.at + Math.max(4, 12 + 6 * c)
      : Math.min(line.at - 3, cold + BOWL_HABITS.aroundSd * c);
    const k = Math.max(0, -slopeNow / (from - around));
    const pace = Math.exp(BOWL_HABITS.paceSd * d);
    return (seconds: number) =>
      steady
        ? from + slopeNow * seconds * 0.5 + d * BOWL_HABITS.wanderC * Math.sqrt(seconds / 600)
        : around + (from - around) * Math.exp(-k * pace * seconds);
  });
  const quantiles = (values: number[]) => {
    const sorted = values.sort((x, y) => x - y);
    return [0.1, 0.5, 0.9].map((p) => quantileOfSorted(sorted, p)) as [number, number, number];
  };
  const points = [];
  for (let s = 0; s <= horizonSeconds + 1e-9; s += every) {
    const [low, celsius, high] = quantiles(members.map((m) => m(s)));
    points.push({ seconds: last.seconds + s, low, celsius, high });
  }
  return {
    points,
    pace: line.slope * 60,
    reaches: (celsius) => {
      requireFinite(celsius, 'the temperature asked for');
      const times = members.map((m) => timeTo(m, celsius, horizonSeconds));
      const [low, middle, high] = quantiles(times);
      if (!Number.isFinite(middle)) return null;
      return { low: last.seconds + low, middle: last.seconds + middle, high: last.seconds + high };
    },
  };
}

const MEMBERS = 64;

/** When a course first crosses a temperature, s; endless where it does not within the horizon. */
function timeTo(course: (seconds: number) => number, celsius: number, horizon: number): number {
  const side = Math.sign(course(0) - celsius);
  if (side === 0) return 0;
  let [a, b] = [0, horizon];
  if (Math.sign(course(b) - celsius) === side) return Infinity;
  for (let i = 0; i < 40; i += 1) {
    const middle = (a + b) / 2;
    if (Math.sign(course(middle) - celsius) === side) a = middle;
    else b = middle;
  }
  return b;
}

/** Straight line through readings: its value at the last one and its slope per second, each with its standard error. */
function paceLine(readings: readonly BowlReading[]): {
  at: number;
  slope: number;
  sdAt: number;
  sdSlope: number;
} | null {
  const line = lineThrough(readings.map((r) => ({ x: r.seconds, y: r.celsius })));
  if (!line) return null;
  // Never better than a probe's own tenth, however well few readings lie on a line.
  const sd = Math.max(BOWL_HABITS.probeSd, line.sd);
  const ahead = readings.at(-1)!.seconds - line.x;
  return {
    at: line.y + line.slope * ahead,
    slope: line.slope,
    sdAt: sd * Math.sqrt(1 / readings.length + ahead ** 2 / line.spread),
    sdSlope: sd / Math.sqrt(line.spread),
  };
}
