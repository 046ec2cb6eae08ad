import { celsiusOf, degreesIn } from '@wunsch/core/quantity';
import type { BowlReading, FollowedBowl, TemperPath } from '@wunsch/core/temper';
import { roundAxis, type Axis } from '../../charts/axes.ts';

/** Room around both plots, px: degrees and shares at the left, stages above, minutes below, the two apart. */
export const MARGIN = { left: 46, right: 14, top: 34, between: 44, bottom: 26 };

/** Most of the fat the crystal plot shows as crystals, %. */
export const MOST_SHARE = 6;

/** Where things lie on the bowl's chart; minutes across, °C in the upper plot and % of the fat in the lower. */
export interface BowlScale {
  width: number;
  height: number;
  inner: { w: number; upper: number; lower: number };
  minutes: Axis;
  /** Marks up the upper plot: where each lies, °C, and the degrees it is written with in the reader's unit. */
  degrees: { celsius: number; written: number }[];
  x: (minutes: number) => number;
  upper: (celsius: number) => number;
  lower: (percent: number) => number;
  /** Top and bottom of each plot, px. */
  upperTop: number;
  upperBottom: number;
  lowerTop: number;
  lowerBottom: number;
}

/** A scale that holds the plan, what was read and what is to come. */
export function bowlScale({
  width,
  height,
  readings,
  plan,
  earlier,
  followed,
  path,
  unit,
}: {
  width: number;
  height: number;
  readings: readonly BowlReading[];
  plan: readonly { minutes: number; celsius: number }[];
  earlier: readonly (readonly BowlReading[])[];
  followed: FollowedBowl | null;
  path: TemperPath;
  unit: '°C' | '°F';
}): BowlScale {
  const last = readings.at(-1)?.seconds ?? 0;
  const minutes = roundAxis(
    [
      0,
      readings.length === 0 ? (plan.at(-1)?.minutes ?? 60) : last / 60 + 15,
      (followed?.forecast.at(-1)?.seconds ?? 0) / 60,
      ...(readings.length === 0 ? earlier.map((e) => (e.at(-1)?.seconds ?? 0) / 60) : []),
    ],
    { min: 0, usual: [0, 60] },
  );
  // Shown from where melting chocolate begins to matter: what is colder lies at the lower edge.
  const degrees = roundAxis(
    [
      path.coolC - 2,
      path.meltC + 2,
      ...readings.map((r) => Math.min(60, Math.max(path.coolC - 4, r.celsius))),
    ].map((c) => degreesIn(unit, c)),
    { usual: [24, 48].map((c) => degreesIn(unit, c)) as [number, number] },
  );
  const step = (degrees.max - degrees.min) / degrees.ticks;
  const inner = {
    w: Math.max(180, width - MARGIN.left - MARGIN.right),
    upper: (height - MARGIN.top - MARGIN.between - MARGIN.bottom) * 0.62,
    lower: (height - MARGIN.top - MARGIN.between - MARGIN.bottom) * 0.38,
  };
  const upperTop = MARGIN.top;
  const upperBottom = upperTop + inner.upper;
  const lowerTop = upperBottom + MARGIN.between;
  const lowerBottom = lowerTop + inner.lower;
  const held = (value: number, low: number, high: number) => Math.min(high, Math.max(low, value));
  return {
    width,
    height,
    inner,
    minutes,
    degrees: Array.from({ length: degrees.ticks + 1 }, (_, i) => degrees.min + i * step).map((written) => ({
      celsius: celsiusOf(unit, written),
      written,
    })),
    x: (m) => MARGIN.left + ((m - minutes.min) / (minutes.max - minutes.min)) * inner.w,
    upper: (c) =>
      upperBottom -
      ((held(degreesIn(unit, c), degrees.min, degrees.max) - degrees.min) / (degrees.max - degrees.min)) *
        inner.upper,
    lower: (percent) => lowerBottom - (held(percent, 0, MOST_SHARE) / MOST_SHARE) * inner.lower,
    upperTop,
    upperBottom,
    lowerTop,
    lowerBottom,
  };
}
