import { expose } from 'comlink';
import {
  expectedLoss,
  foretoldRoast,
  forecastRoast,
  learnBeans,
  learnOven,
  solvePlan,
  timeToTarget,
  type Bean,
  type LiveRoast,
  type LoggedRoast,
  type Oven,
  type OvenLearning,
  type Ranged,
  type RoastForecast,
  type SolvedPlan,
  type SolveProblem,
  type WeighedRoast,
} from '@wunsch/core/roast';

/** How well an oven says when the beans reach a temperature, on roasts it has not learnt from: mean error in s. */
export interface LearningGain {
  targetC: number;
  before: number;
  after: number;
  roasts: number;
}

const TARGETS = [110, 105, 100, 95];

/** Leaves each roast out once, learns from the others, and compares the error in time to target with the unlearnt oven's. */
function learningGain(start: Oven, roasts: readonly LoggedRoast[]): LearningGain | null {
  if (roasts.length < 2) return null;
  const targetC = TARGETS.find((t) => roasts.every((r) => timeToTarget(r, start, t) !== null));
  if (targetC === undefined) return null;
  const error = (roast: LoggedRoast, oven: Oven) => {
    const e = timeToTarget(roast, oven, targetC);
    return e ? Math.abs(e.predictedSeconds - e.measuredSeconds) : Number.NaN;
  };
  const held = roasts.slice(0, 4);
  const mean = (values: number[]) => values.reduce((a, b) => a + b, 0) / values.length;
  return {
    targetC,
    before: mean(held.map((r) => error(r, start))),
    after: mean(
      held.map((r) =>
        error(
          r,
          learnOven(
            start,
            roasts.filter((x) => x !== r),
          ).oven,
        ),
      ),
    ),
    roasts: held.length,
  };
}

const api = {
  forecast: (live: LiveRoast): RoastForecast => forecastRoast(live),
  learn: (start: Oven, roasts: readonly LoggedRoast[]): OvenLearning => learnOven(start, roasts),
  learnBeans,
  /** What loads were to lose, counted by their places in the list; their beans as the others have taught. */
  losses: (
    prior: Bean,
    loads: readonly WeighedRoast[],
    learning: OvenLearning,
    which: readonly number[],
  ): Ranged[] =>
    which.map((i) => {
      const load = loads[i]!;
      const others = loads.filter((other) => other !== load);
      return expectedLoss(load, learnBeans(prior, others, learning).bean, learning);
    }),
  gain: learningGain,
  lookBack: (roast: LoggedRoast, oven: Oven) => foretoldRoast(roast, oven),
  /** The run itself stays here; pages need only the plan and what came of each wish. */
  solve: (problem: SolveProblem): Omit<SolvedPlan, 'run'> => {
    const { plan, results, met } = solvePlan(problem);
    return { plan, results, met };
  },
};

/** What the roast worker answers. */
export type RoastWorker = typeof api;

expose(api);
