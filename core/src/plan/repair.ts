import { followBatches } from './follow.ts';
import { readyRoom, type Found, type ReadyRoom } from './givingWay.ts';
import { mendIn } from './mending.ts';
import { giveHands, solveWithHands } from './hands.ts';
import { movesOf, type Move } from './moves.ts';
import { planFrom } from './planFrom.ts';
import { emptyPlan, readPlan, withChances, type WorkshopPlan } from './planWorkshop.ts';
import type { PlannedStep, PlanPin, PlanRoom } from './room.ts';
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
  const ready = readyRoom(room, pins, kept);
  if (!ready)
    return {
      plan: emptyPlan(room, workshopProject(room, pins)),
      moves: [],
      added: [],
      gone: kept.map((s) => s.key),
      instead: null,
    };
  const { laid } = ready;
  const bare = workshopProject(room, pins);
  const mended = mendIn(ready, laid, new Set(pins.map((p) => p.step)), {
    budgetMs: budgetMs / 2,
    now,
    anew: (from) => (budgetMs > 0 ? solveWithHands(room, bare, { budgetMs, from, now }) : null),
  });
  const found = mended?.found ?? solveWithHands(room, bare, { budgetMs, from: planFrom(bare, kept), now });
  const withHands = (f: Found) =>
    repairOf({ room, workshop: bare }, kept, giveHands(room, bare, f), pins, draws);
  return { ...withHands(found), instead: mended?.instead ? withHands(mended.instead) : null };
}

/** A found plan as a repair of the one before, with nothing proposed beside it. */
export function repairOf(
  { room, workshop }: Pick<ReadyRoom, 'room' | 'workshop'>,
  kept: readonly PlannedStep[],
  found: Found,
  pins: readonly PlanPin[],
  draws: number,
): Repair {
  const old = new Map(kept.map((s) => [s.key, s]));
  const solved = { bound: { lateness: 0, end: 0 }, gap: 0, isProved: false, tried: 1, ...found };
  const read = readPlan(room, workshop, solved, kept);
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
