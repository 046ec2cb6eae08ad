import type { PlannedStep, SetUp, SetUpHands } from './room.ts';

/** What somebody does to make a machine ready for the charge that a step begins. */
export interface ReadyWork {
  /** Key of the step, and `/ready`. */
  key: string;
  step: PlannedStep;
  setUp: SetUp;
  hands: SetUpHands;
}

/** What people do in a plan to make machines ready, in order of time; nothing for a charge that is in. */
export function readyWork(steps: readonly PlannedStep[]): ReadyWork[] {
  return steps
    .flatMap((step) => {
      const { setUp } = step;
      return setUp?.hands && !step.begun
        ? [{ key: `${step.key}/ready`, step, setUp, hands: setUp.hands }]
        : [];
    })
    .sort((a, b) => a.hands.start.localeCompare(b.hands.start));
}

/** Steps whose machine has to be made ready while nobody who may do it is there and free. */
export const notReady = (steps: readonly PlannedStep[]): PlannedStep[] =>
  steps.filter((s) => !s.begun && s.setUp?.hands === null);
