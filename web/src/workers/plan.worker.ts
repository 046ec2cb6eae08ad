import { expose } from 'comlink';
import {
  Dragging,
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

let dragging: Dragging | null = null;

const api = {
  /** The whole plan anew, telling of each better one. */
  plan: (
    room: PlanRoom,
    pins: PlanPin[],
    from: readonly PlannedStep[] | null,
    budgetMs: number,
    onBetter: (plan: WorkshopPlan) => void,
  ): WorkshopPlan => planWorkshop(room, { pins, budgetMs, onBetter, ...(from && { from }) }),
  /** The plan in force mended round what has happened. */
  repair: (room: PlanRoom, kept: PlannedStep[], pins: PlanPin[], draws: number, keptAt?: string): Repair =>
    repairPlan(room, kept, { pins, draws, ...(keptAt !== undefined && { keptAt }) }),
  /** The plan with what has been fixed by hand; everything else stays where it can, and nothing is planned anew. */
  pin: (room: PlanRoom, kept: PlannedStep[], pins: PlanPin[]): Repair =>
    repairPlan(room, kept, { pins, draws: 120, budgetMs: 0 }),
  /** Makes ready for steps of a plan to be dragged about. */
  take: (room: PlanRoom, kept: PlannedStep[], pins: PlanPin[]): void => {
    dragging = new Dragging(room, kept, pins);
  },
  /** The step in hand moved: what gives way, and what it would break where everything else stayed. */
  drag: (pin: PlanPin): { repair: Repair; broken: Broken[] } => {
    if (!dragging) throw new RangeError('no plan was taken in hand');
    return dragging.to(pin);
  },
  promise: (room: PlanRoom, kept: PlannedStep[], lines: PlanOrderLine[], pins: PlanPin[]): Promising =>
    promiseFor(room, kept, lines, { pins }),
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
