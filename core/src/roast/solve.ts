import { leastSquares } from '../numerics/index.ts';
import { dialTemperature } from '../quantity/index.ts';
import type { Bean } from './bean.ts';
import { plannedStirs, stirAt, UNSTIRRED_END } from './hands.ts';
import type { Oven } from './oven.ts';
import { planMinutes, type RoastPlan } from './plan.ts';
import { simulateRoast, type RoastRun } from './simulate.ts';

/** What a roast is to come to. Anything left out is free. */
export interface RoastAim {
  /** Roast dose, minutes equal to a steady 120 °C. */
  doseMinutes?: number | null;
  /** Least share of the sharp acid driven off, 0–1. */
  acidGone?: number | null;
  /** Highest surface temperature, °C: the lot's ceiling. */
  surfaceMaxC?: number | null;
  /** Moisture left, % wet basis: from, to. */
  moisture?: readonly [number, number] | null;
  /** Longest roast, min. */
  maxMinutes?: number | null;
}

/** One wish, what came of it, and whether it is met. */
export interface AimResult {
  what: 'dose' | 'acid' | 'surface' | 'moisture' | 'minutes';
  /** The bound or value wished for; for moisture the nearer end. */
  wanted: number;
  got: number;
  met: boolean;
}

/** A plan that comes nearest to the aim. */
export interface SolvedPlan {
  plan: RoastPlan;
  run: RoastRun;
  results: AimResult[];
  met: boolean;
}

/** What {@link solvePlan} is given. */
export interface SolveProblem {
  start: RoastPlan;
  aim: RoastAim;
  bean: Bean;
  oven: Oven;
  loadKg: number;
  roomC?: number;
  /** Seconds between stirs, at each of which the door stands open; none where left out. */
  stirEvery?: number;
  /** Degrees the oven's dial is read in; °C where left out. */
  dialUnit?: '°C' | '°F';
  /** Settings the oven can hold, °C. */
  setRange?: readonly [number, number];
}

/** How near counts as met: dose ± 3 %, acid 0.5 points, surface 0.5 K, moisture 0.05 points, time half a minute. */
const NEAR = { dose: 0.03, acid: 0.005, surface: 0.5, moisture: 0.05, minutes: 0.5 };

/** How finely a roast is reckoned; the model's own shells and step where left out. */
interface Grid {
  shells?: number;
  step?: number;
}

/** For the search, whose end is then mended on the model's own; within half a kelvin and two parts in a hundred of the dose. */
const COARSE: Grid = { shells: 6, step: 12 };

/** What a search leaves as it is: how often the beans are stirred, as often as the plan asks where left out, and how long it may be, min. */
interface Held {
  stirs?: number;
  longest?: number;
}

/** Where a search has come to, what it held, and the plan that is. */
interface Settled {
  x: readonly number[];
  held: Held;
  plan: RoastPlan;
}

/** A sum of squares that only leaving the starting plan can make: every wish is met. */
const NOTHING_MISSED = 0.5;

/**
 * Changes a plan's settings and lengths until the model's roast meets an aim, staying as near to the starting plan as
 * that allows: least squares over the stages with a one-sided penalty for each bound, the surface ceiling weighing most.
 * Where wishes exclude each other it returns the nearest plan and says which are not met and by how much.
 *
 * @throws RangeError for a load not above 0 or an empty plan
 */
export function solvePlan({
  start,
  aim,
  bean,
  oven,
  loadKg,
  roomC,
  stirEvery,
  dialUnit = '°C',
  setRange = [60, 220],
}: SolveProblem): SolvedPlan {
  const n = start.stages.length;
  const simulate = (plan: RoastPlan, grid: Grid, stirs?: number) =>
    simulateRoast({
      bean,
      oven,
      plan,
      loadKg,
      roomC,
      events:
        stirs === undefined
          ? plannedStirs(plan, stirEvery, 0)
          : Array.from({ length: stirs }, (_, i) => stirAt((i + 1) * stirEvery!)),
      ...grid,
      sampleEvery: 30,
    });
  const build = (x: readonly number[]): RoastPlan => ({
    ...start,
    stages: start.stages.map((s, i) => ({ ...s, setC: x[i]!, minutes: Math.exp(x[n + i]!), endBeanC: null })),
  });
  // A little inside of what is wished for, so that rounding to what a hand can set keeps it.
  const [drier, wetter] = within(aim.moisture ?? [0, 100], NEAR.moisture);
  const residuals = (grid: Grid, held: Held) => (x: readonly number[]) => {
    const plan = build(x);
    const got = outcome(simulate(plan, grid, held.stirs), plan);
    const over = (value: number, limit: number | null | undefined, near: number) =>
      limit == null ? 0 : Math.max(0, value - limit) / near;
    return [
      ...doseResiduals(got.dose, aim.doseMinutes),
      aim.acidGone == null ? 0 : Math.max(0, aim.acidGone + 0.001 - got.acid) / (NEAR.acid / 2),
      over(got.surface, aim.surfaceMaxC == null ? null : aim.surfaceMaxC - 0.2, NEAR.surface / 20),
      aim.moisture
        ? (Math.max(0, got.moisture - wetter) + Math.max(0, drier - got.moisture)) / NEAR.moisture
        : 0,
      over(got.minutes, Math.min(aim.maxMinutes ?? Infinity, held.longest ?? Infinity), NEAR.minutes / 5),
      ...start.stages.map((s, i) => (x[i]! - s.setC) / 60),
      ...start.stages.map((s, i) => (x[n + i]! - Math.log(s.minutes)) / 3),
    ];
  };
  const bound = (low: number, high: number) => (_: unknown, i: number) =>
    (i < n ? [setRange[0], setRange[1]] : [low, high])[0]!;
  const ends = Array.from({ length: 2 * n });
  const lower = ends.map(bound(Math.log(1), 0));
  const upper = ends.map((_, i) => (i < n ? setRange[1] : Math.log(120)));
  const from = (deg: number, time: number) => [
    ...start.stages.map((s) => Math.min(setRange[1], Math.max(setRange[0], s.setC + deg))),
    ...start.stages.map((s) => Math.log(s.minutes * time)),
  ];
  const search = (x: readonly number[], grid: Grid, maxIterations: number, held: Held) =>
    leastSquares({
      residuals: residuals(grid, held),
      start: [...x],
      lower,
      upper,
      scale: x.map(() => 1000),
      maxIterations,
      tolerance: 1e-3,
    });
  const tidied = (x: readonly number[]) =>
    tidy(build(x), dialUnit, (p) => judge(aim, outcome(simulate(p, {}), p)));
  // Penalties with corners can hold a search back: up to three beginnings, and the best is kept.
  let best: ReturnType<typeof search> | null = null;
  for (const x of [from(0, 1), from(15, 0.7), from(-12, 1.6)]) {
    const fit = search(x, COARSE, 40, {});
    if (!best || fit.sumOfSquares < best.sumOfSquares) best = fit;
    if (best.sumOfSquares < NOTHING_MISSED) break;
  }
  // A stir more or less is a step that no search climbs: their number is held, and taken from the plan it led to until both agree.
  const stirsOf = (p: RoastPlan) => plannedStirs(p, stirEvery, 0).length;
  const settle = (grid: Grid, written: (x: readonly number[]) => RoastPlan, from: Settled): Settled => {
    let [x, held] = [from.x, from.held];
    const tried = new Set<number>();
    for (;;) {
      x = search(x, grid, 8, held).parameters;
      const plan = written(x);
      const asked = stirsOf(plan);
      if (asked === held.stirs || held.longest !== undefined) return { x, held, plan };
      tried.add(held.stirs!);
      // With one more it is so long that there is one more, with one less so short that there is one less: just short of the next.
      const fewer = Math.min(asked, held.stirs!);
      held = tried.has(asked)
        ? { stirs: fewer, longest: ((fewer + 1) * stirEvery! + UNSTIRRED_END) / 60 - 0.5 }
        : { stirs: asked };
    }
  };
  const found = build(best!.parameters);
  const first: Settled = { x: best!.parameters, held: { stirs: stirsOf(found) }, plan: found };
  const { plan } = settle({}, tidied, stirEvery === undefined ? first : settle(COARSE, build, first));
  const run = simulate(plan, {});
  const results = judge(aim, outcome(run, plan));
  return { plan, run, results, met: results.every((r) => r.met) };
}

/**
 * A dose well within what counts as met pulls gently, so that it can give way where another wish needs it; one that is further off
 * pulls hard.
 */
function doseResiduals(got: number, wanted: number | null | undefined): [number, number] {
  if (!wanted) return [0, 0];
  const off = Math.log(Math.max(got, 1e-6) / wanted);
  const beyond = Math.sign(off) * Math.max(0, Math.abs(off) - NEAR.dose / 2);
  return [off / NEAR.dose, beyond / (NEAR.dose / 3)];
}

/** A range a little narrower at both ends, never by more than a quarter of it. */
function within([low, high]: readonly [number, number], margin: number): [number, number] {
  const by = Math.min(margin, (high - low) / 4);
  return [low + by, high - by];
}

function outcome(run: RoastRun, plan: RoastPlan) {
  return {
    dose: run.dose.at(-1)!,
    acid: 1 - run.acid.at(-1)!,
    surface: run.surfaceMax,
    moisture: run.moisture.at(-1)!,
    minutes: planMinutes(plan),
  };
}

/** Each wish of an aim with what a roast came to. */
export function judge(
  aim: RoastAim,
  got: { dose: number; acid: number; surface: number; moisture: number; minutes: number },
): AimResult[] {
  const results: AimResult[] = [];
  const add = (what: AimResult['what'], wanted: number, value: number, met: boolean) =>
    results.push({ what, wanted, got: value, met });
  if (aim.doseMinutes)
    add('dose', aim.doseMinutes, got.dose, Math.abs(got.dose / aim.doseMinutes - 1) <= NEAR.dose);
  if (aim.acidGone != null) add('acid', aim.acidGone, got.acid, got.acid >= aim.acidGone - NEAR.acid);
  if (aim.surfaceMaxC != null)
    add('surface', aim.surfaceMaxC, got.surface, got.surface <= aim.surfaceMaxC + NEAR.surface);
  if (aim.moisture) {
    const [low, high] = aim.moisture;
    add(
      'moisture',
      got.moisture > high ? high : low,
      got.moisture,
      got.moisture >= low - NEAR.moisture && got.moisture <= high + NEAR.moisture,
    );
  }
  if (aim.maxMinutes != null)
    add('minutes', aim.maxMinutes, got.minutes, got.minutes <= aim.maxMinutes + NEAR.minutes);
  return results;
}

/** Rounds to whole degrees of the dial and quarter minutes, where a hand can set them, unless that breaks a wish which half steps keep. */
function tidy(plan: RoastPlan, dialUnit: '°C' | '°F', judged: (plan: RoastPlan) => AimResult[]): RoastPlan {
  const rounded = (degrees: number, minutes: number): RoastPlan => ({
    ...plan,
    stages: plan.stages.map((s) => ({
      ...s,
      setC: dialTemperature(s.setC, dialUnit, degrees),
      minutes: Math.max(minutes, Math.round(s.minutes / minutes) * minutes),
    })),
  });
  const tries = [rounded(1, 0.25), rounded(0.5, 1 / 12)];
  const missed = tries.map((p) => judged(p).filter((r) => !r.met).length);
  return missed[1]! < missed[0]! ? tries[1]! : tries[0]!;
}
