import { followBatches } from './follow.ts';
import { readyRoom, type Found, type ReadyRoom } from './givingWay.ts';
import { mendIn } from './mending.ts';
import { movesOf, type Move } from './moves.ts';
import { emptyPlan, planFrom, readPlan, withChances, type WorkshopPlan } from './planWorkshop.ts';
import type { PlannedStep, PlanPin, PlanRoom } from './room.ts';
import { solveProject } from './solve.ts';
import { workshopProject } from './workshop.ts';

/** A plan mended, and what it changes. */
export interface Repair {
  plan: WorkshopPlan;
  moves: Move[];
  /** Steps the plan has that the one before had not. */
  added: string[];
  /** Steps that are no more. */
  gone: string[];
  /** What would be sooner but moves more than a day's work can be told anew: only proposed; null where mending wins all there is to win. */
  instead: Repair | null;
}

/**
 * Mends a plan round what has happened: everything stays where it was unless it can not; what must move gives way in the order the plan
 * had, and where promises would then be later than they were, late batches and those in their way are planned again, as far as that wins more
 * than the moves it costs and moves no more than {@link FEW} steps beyond those that had to; what would win more by moving more is only proposed.
 *
 * @param before steps of the plan that is in force
 * @param keptAt since when, so that batches begun since take the places it had for them
 * @param pins what the maker has fixed by hand
 * @param budgetMs how long everything may be planned anew where promises slip, ms; 0 for not at all
 * @param now clock of the search, ms
 * @throws NoPlan where something fits nowhere
 */
export function repairPlan(
  room: PlanRoom,
  before: readonly PlannedStep[],
  {
    pins = [],
    draws = 100,
    budgetMs = 600,
    keptAt,
    now,
  }: {
    pins?: readonly PlanPin[];
    draws?: number;
    budgetMs?: number;
    keptAt?: string;
    now?: () => number;
  } = {},
): Repair {
  const kept =
    keptAt === undefined
      ? before
      : followBatches(
          before,
          room.batches.map((b) => ({ ...b, startedAt: b.startedAt ?? '' })),
          keptAt,
        );
  const ready = readyRoom(room, pins);
  if (!ready)
    return {
      plan: emptyPlan(room, workshopProject(room, pins)),
      moves: [],
      added: [],
      gone: kept.map((s) => s.key),
      instead: null,
    };
  const { workshop } = ready;
  const mended = mendIn(ready, kept, new Set(pins.map((p) => p.step)), {
    budgetMs: budgetMs / 2,
    now,
    anew: (from) => (budgetMs > 0 ? solveProject({ ...workshop.project }, { budgetMs, from, now }) : null),
  });
  const found =
    mended?.found ?? solveProject({ ...workshop.project }, { budgetMs, from: planFrom(workshop, kept), now });
  return {
    ...repairOf(ready, kept, found, pins, draws),
    instead: mended?.instead ? repairOf(ready, kept, mended.instead, pins, draws) : null,
  };
}

/** A found plan as a repair of the one before, with nothing proposed beside it. */
export function repairOf(
  { room, workshop }: ReadyRoom,
  kept: readonly PlannedStep[],
  found: Found,
  pins: readonly PlanPin[],
  draws: number,
): Repair {
  const old = new Map(kept.map((s) => [s.key, s]));
  const solved = { bound: { lateness: 0, end: 0 }, gap: 0, isProved: false, tried: 1, ...found };
  const read = readPlan(room, workshop, solved);
  const plan = draws > 0 ? withChances(read, workshop, found.plan, draws) : read;
  const has = new Set(plan.steps.map((s) => s.key));
  return {
    plan,
    moves: movesOf(room, plan.steps, old, new Set(pins.map((p) => p.step))),
    added: plan.steps.filter((s) => !old.has(s.key)).map((s) => s.key),
    gone: kept.filter((s) => !has.has(s.key)).map((s) => s.key),
    instead: null,
  };
}
