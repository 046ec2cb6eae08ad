import { roundTemperature } from '../quantity/index.ts';
import { requireAbove0, requireNotBelow0 } from '../numerics/index.ts';

/** One stage of a roast plan. */
export interface RoastStage {
  name: string;
  /** Oven set temperature, °C. */
  setC: number;
  minutes: number;
  fan: boolean;
  /** What ends the stage when it is not the clock: a smell, a sound, in words. */
  until?: string | null;
  /** Bean temperature that ends the stage before its time is up, °C. */
  endBeanC?: number | null;
}

/** A named plan. */
export interface RoastPlan {
  name: string;
  stages: RoastStage[];
}

/** Plans to start from, one for each school. All figures are to be changed to the oven and the bean. */
export const STARTER_PLANS: readonly RoastPlan[] = [
  {
    name: 'low and long',
    stages: [
      { name: 'dry', setC: 110, minutes: 10, fan: true },
      { name: 'soak', setC: 122, minutes: 20, fan: true },
      { name: 'ease off', setC: 100, minutes: 5, fan: true },
    ],
  },
  {
    name: 'hot and short',
    stages: [
      { name: 'drive', setC: 150, minutes: 10, fan: true },
      { name: 'finish', setC: 135, minutes: 6, fan: true },
    ],
  },
  {
    name: 'falling stages',
    stages: [
      { name: 'drive', setC: 160, minutes: 6, fan: true },
      { name: 'build', setC: 140, minutes: 7, fan: true },
      { name: 'soak', setC: 125, minutes: 8, fan: true },
    ],
  },
  {
    name: 'nib roast',
    stages: [
      { name: 'dry', setC: 105, minutes: 8, fan: true },
      { name: 'roast', setC: 118, minutes: 12, fan: true },
    ],
  },
];

/** Steps of an oven's dial in °F. */
const DIAL_F = 5;

/** The plans to start from, set to what an oven's dial has. */
export const starterPlans = (unit: '°C' | '°F'): RoastPlan[] =>
  STARTER_PLANS.map((plan) => ({
    ...plan,
    stages: plan.stages.map((s) => ({ ...s, setC: roundTemperature(s.setC, unit, DIAL_F) })),
  }));

/** Length of a plan in minutes. */
export function planMinutes(plan: RoastPlan): number {
  return plan.stages.reduce((sum, s) => {
    requireNotBelow0(s.minutes, `the length of ‘${s.name}’`);
    return sum + s.minutes;
  }, 0);
}

/** The plan's oven line as corner points (minutes since beans-in, °C), two for each stage. */
export function planLine(plan: RoastPlan): { minutes: number; celsius: number }[] {
  let at = 0;
  return plan.stages.flatMap((s) => {
    const from = at;
    at += s.minutes;
    return [
      { minutes: from, celsius: s.setC },
      { minutes: at, celsius: s.setC },
    ];
  });
}

/** The stage that runs `minutes` after beans-in, its index and the minutes left in it; null after the end. */
export function stageAt(
  plan: RoastPlan,
  minutes: number,
): { index: number; stage: RoastStage; minutesLeft: number } | null {
  let end = 0;
  for (const [index, stage] of plan.stages.entries()) {
    end += stage.minutes;
    if (minutes < end) return { index, stage, minutesLeft: end - minutes };
  }
  return null;
}

/** Splits a charge into the fewest equal loads the oven takes; the last takes the odd milligrams. Throws RangeError for a maximum not above 0. */
export function splitLoads(chargeMg: number, maxLoadMg: number): number[] {
  requireAbove0(maxLoadMg, 'the largest load');
  requireNotBelow0(chargeMg, 'the charge');
  if (chargeMg === 0) return [];
  const loads = Math.ceil(chargeMg / maxLoadMg);
  const each = Math.floor(chargeMg / loads);
  return Array.from({ length: loads }, (_, i) => (i === loads - 1 ? chargeMg - each * (loads - 1) : each));
}
