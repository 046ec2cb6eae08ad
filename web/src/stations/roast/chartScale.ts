import { believable } from '@wunsch/core/readings';
import { BEAN_BOUNDS, beansOwn, type BeanReading, type RoastPlan } from '@wunsch/core/roast';
import type { useWords } from '../../words/words.tsx';

/** A stage with where it lies in the roast, seconds since beans-in. */
export type Stage = RoastPlan['stages'][number] & { from: number; to: number };

/** From seconds or °C to pixels. */
export type Scale = (value: number) => number;

/** The page's words. */
export type Words = ReturnType<typeof useWords>;

/** Room around the plot, px: degrees at the left, stages above, minutes and marks below. */
export const MARGIN = { left: 44, right: 14, top: 36, bottom: 52 };

const LEAST_WIDTH = 200;
const SHORTEST_SECONDS = 300;
/** The foot of the plot, unless the beans were read below it. */
const LOWEST_C = 40;
/** Room below what was read lowest, and the step of the foot, °C. */
const BELOW_C = 2;
const FOOT_STEP_C = 10;
const HIGHEST_C = 320;
/** The top stands at least here, so that a roast's first minutes do not fill the plot. */
const LOWEST_TOP_C = 130;

/** Where things lie on the roast chart. */
export interface RoastScale {
  width: number;
  height: number;
  /** Size of the plot itself, px. */
  inner: { w: number; h: number };
  /** Last moment shown, seconds since beans-in. */
  end: number;
  yLow: number;
  yHigh: number;
  x: Scale;
  y: Scale;
  /** From pixels back to seconds and °C. */
  toPlan: (px: number, py: number) => { seconds: number; celsius: number };
}

/** A plan's stages with where each begins and ends, s, called as the reader calls them. */
export function stagesOf(
  plan: RoastPlan | undefined,
  called: (name: string) => string = (name) => name,
): Stage[] {
  let at = 0;
  return (plan?.stages ?? []).map((s) => {
    const from = at;
    at += s.minutes * 60;
    return { ...s, name: called(s.name), from, to: at };
  });
}

/** A scale that holds the plan, what was measured, and earlier loads, with a little room. */
export function roastScale({
  width,
  height,
  stages,
  measured,
  earlier,
  now,
  ceilingC,
}: {
  width: number;
  height: number;
  stages: readonly Stage[];
  /** Bean and oven, °C. */
  measured: readonly (readonly BeanReading[])[];
  earlier: readonly (readonly BeanReading[])[];
  now: number | null;
  ceilingC?: number | null;
}): RoastScale {
  const lastOf = (readings: readonly BeanReading[]) => readings.at(-1)?.seconds ?? 0;
  const end =
    Math.max(
      SHORTEST_SECONDS,
      stages.at(-1)?.to ?? 0,
      now ?? 0,
      lastOf(measured[0] ?? []),
      ...earlier.map(lastOf),
    ) * 1.03;
  const hottestSet = Math.max(0, ...stages.map((s) => s.setC));
  let highest = Math.max(LOWEST_TOP_C, hottestSet + 8);
  // A spark of the probe, and what it reads of a hot drum before the beans, run out at the top.
  const [bean = [], oven = []] = measured;
  const ofBeans = beansOwn(bean).readings;
  for (const { celsius } of [...ofBeans, ...believable(oven, BEAN_BOUNDS)])
    highest = Math.max(highest, celsius + 6);
  const lowest = ofBeans.reduce((low, r) => Math.min(low, r.celsius - BELOW_C), LOWEST_C);
  if (ceilingC && hottestSet > ceilingC - 16) highest = Math.max(highest, ceilingC + 4);
  const [yLow, yHigh] = [
    Math.floor(lowest / FOOT_STEP_C) * FOOT_STEP_C,
    Math.min(HIGHEST_C, Math.ceil(highest / 10) * 10),
  ];
  const inner = {
    w: Math.max(LEAST_WIDTH, width - MARGIN.left - MARGIN.right),
    h: height - MARGIN.top - MARGIN.bottom,
  };
  return {
    width,
    height,
    inner,
    end,
    yLow,
    yHigh,
    x: (seconds) => MARGIN.left + (seconds / end) * inner.w,
    y: (celsius) =>
      MARGIN.top +
      inner.h -
      ((Math.min(Math.max(celsius, yLow - 20), yHigh + 20) - yLow) / (yHigh - yLow)) * inner.h,
    toPlan: (px, py) => ({
      seconds: ((px - MARGIN.left) / inner.w) * end,
      celsius: yLow + ((MARGIN.top + inner.h - py) / inner.h) * (yHigh - yLow),
    }),
  };
}

/** Minutes between two ticks so that at most eight stand on the axis. */
export function minuteStep(endSeconds: number): number {
  return [1, 2, 5, 10, 20, 30, 60].find((m) => endSeconds / 60 / m <= 8) ?? 60;
}

/** Round values from `from` to `to`, both included where they are multiples of `step`. */
export function ticks(from: number, to: number, step: number): number[] {
  const first = Math.ceil(from / step) * step;
  return Array.from({ length: Math.max(0, Math.floor((to - first) / step) + 1) }, (_, i) => first + i * step);
}
