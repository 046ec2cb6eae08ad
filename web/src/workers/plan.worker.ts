import { expose } from 'comlink';
import {
  brokenAt,
  planWorkshop,
  promiseFor,
  repairPlan,
  whatHelps,
  whatIf,
  type Broken,
  type Change,
  type Difference,
  type Help,
  type PlannedStep,
  type PlanOrderLine,
  type PlanPin,
  type PlanRoom,
  type Promising,
  type Repair,
  type WorkshopPlan,
} from '@wunsch/core/plan';

const api = {
  /** The whole plan anew, telling of each better one. */
  plan: (
    room: PlanRoom,
    pins: PlanPin[],
    from: Record<string, number> | null,
    budgetMs: number,
    onBetter: (plan: WorkshopPlan) => void,
  ): WorkshopPlan => planWorkshop(room, { pins, budgetMs, onBetter, ...(from && { from }) }),
  /** The plan in force mended round what has happened. */
  repair: (room: PlanRoom, kept: PlannedStep[], pins: PlanPin[], draws: number, keptAt?: string): Repair =>
    repairPlan(room, kept, { pins, draws, ...(keptAt !== undefined && { keptAt }) }),
  /** A step moved: what gives way, and what it would break where everything else stayed. */
  drag: (
    room: PlanRoom,
    kept: PlannedStep[],
    pins: PlanPin[],
    pin: PlanPin,
  ): { repair: Repair; broken: Broken[] } => ({
    repair: repairPlan(room, kept, {
      pins: [...pins.filter((p) => p.step !== pin.step), pin],
      draws: 0,
      budgetMs: 60,
    }),
    broken: brokenAt(room, kept, pin.step, pin.at),
  }),
  promise: (room: PlanRoom, kept: PlannedStep[], line: PlanOrderLine, pins: PlanPin[]): Promising =>
    promiseFor(room, kept, line, { pins }),
  whatIf: (
    room: PlanRoom,
    plan: WorkshopPlan,
    change: Change,
  ): { plan: WorkshopPlan; differences: Difference[] } => whatIf(room, plan, change),
  helps: (room: PlanRoom, kept: PlannedStep[]): Help[] => whatHelps(room, kept),
};

/** What the plan's worker answers. */
export type PlanWorker = typeof api;

expose(api);
