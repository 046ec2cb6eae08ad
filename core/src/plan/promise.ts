import { orderChances } from './chances.ts';
import { solveWithHands } from './hands.ts';
import { requireWhole } from '../numerics/index.ts';
import { planFrom } from './planFrom.ts';
import { readPlan, unmadeOf, type WorkshopPlan } from './planWorkshop.ts';
import { NoPlan } from './project.ts';
import { repairPlan } from './repair.ts';
import type { PlannedStep, PlanOrderLine, PlanPin, PlanRoom } from './room.ts';
import { spareOf } from './orders.ts';
import { workshopProject, type WorkshopProject } from './workshop.ts';

const MINUTE = 60_000;

/** A chance that falls by less than this is not worth a word. */
const NOTABLE = 0.05;

/** Bars that nothing can be made from. Its message begins with their number and ends with the recipe's name, for whoever gets no more of it than that. */
export class NothingToMakeOf extends NoPlan {
  constructor(
    readonly recipe: string,
    readonly bars: number,
    why: 'no-lot' | 'no-recipe',
  ) {
    super(
      `${bars} bars cannot be made, since there is ${why === 'no-lot' ? 'no lot' : 'no recipe'} for them: ${recipe}`,
    );
    this.name = 'NothingToMakeOf';
  }
}

/** One way to take a new order in. */
export interface Promised {
  /** Instants by which it is ready with a chance of one half, and of four fifths; null where it never is. */
  at50: string | null;
  at80: string | null;
  /** Chance to be ready by the day that is asked for. */
  chance: number;
  /** How surely the batches it then waits for give all its bars, 0–1 ({@link enoughBars}); that they are in time is `chance`. */
  enough: number;
  plan: WorkshopPlan;
  /** Other orders whose chance falls. */
  pushed: { orderId: string; before: number; after: number }[];
}

/** What can be promised: behind everything else, and, where that is too late, before it. */
export interface Promising {
  behind: Promised;
  before: Promised | null;
}

/**
 * What a new order could be promised for, with all its kinds of bars: first behind everything that is planned, pushing nobody; and where
 * that is not in time, before it, with what that would push.
 *
 * @param asked bars that are asked for, one line a kind, all of one order and wanted by the same day
 * @throws NoPlan where it fits nowhere, NothingToMakeOf where there is no lot or recipe to make it from, RangeError for bars that are no
 *   whole number above 0 and lines of several orders
 */
export function promiseFor(
  room: PlanRoom,
  kept: readonly PlannedStep[],
  asked: PlanOrderLine | readonly PlanOrderLine[],
  {
    pins = [],
    draws = 150,
    budgetMs = 1500,
    now,
  }: { pins?: readonly PlanPin[]; draws?: number; budgetMs?: number; now?: () => number } = {},
): Promising {
  const lines: readonly PlanOrderLine[] = 'bars' in asked ? [asked] : asked;
  const [line] = lines;
  if (!line) throw new RangeError('an order has one line of bars at least');
  for (const { bars, orderId, due } of lines) {
    requireWhole(bars, 'the bars of a line', 1);
    if (orderId !== line.orderId || due !== line.due)
      throw new RangeError('the lines of a promise are of one order, wanted by one day');
  }
  const base = repairPlan(room, kept, { pins, draws, now });
  const chances = new Map(base.plan.orders.map((o) => [o.orderId, o.chance ?? 1]));
  const asking = { ...room, orders: [...room.orders, ...lines] };
  const workshop = workshopProject(asking, pins);
  requireMakeable(room, workshop, lines);
  const tell = (
    of: WorkshopProject,
    plan: WorkshopPlan,
    starts: Record<string, number>,
    given: Record<string, string[]>,
    after: ReadonlySet<string> = new Set(),
  ): Promised => {
    const all = orderChances(of, { starts, given }, draws, after);
    // With what is to spare, where that is asked for, it is ready once that is there.
    const mine =
      all.find((o) => o.orderId === spareOf(line.orderId)) ?? all.find((o) => o.orderId === line.orderId);
    // What lies in stock is ready now.
    const done = mine?.done ?? Array.from({ length: draws }, () => 0);
    const at = (share: number) => {
      const minute = done[Math.ceil(share * done.length) - 1];
      return minute !== undefined ? new Date(of.zero + minute * MINUTE).toISOString() : null;
    };
    const due = Math.round((Date.parse(line.due) - of.zero) / MINUTE);
    const chanceOf = new Map(all.map((o) => [o.orderId, o.chance]));
    return {
      at50: at(0.5),
      at80: at(0.8),
      chance: done.filter((t) => t <= due).length / Math.max(1, done.length),
      enough: of.enough.get(line.orderId)?.with ?? 1,
      plan: {
        ...plan,
        orders: plan.orders.map((o) => ({
          ...o,
          chance: o.unmade > 0 ? 0 : (chanceOf.get(o.orderId) ?? o.chance),
        })),
      },
      pushed: [...chances].flatMap(([orderId, before]) => {
        const after = chanceOf.get(orderId) ?? 1;
        return before - after >= NOTABLE ? [{ orderId, before, after }] : [];
      }),
    };
  };
  const minutes = (of: WorkshopProject, plan: WorkshopPlan) =>
    Object.fromEntries(plan.steps.map((s) => [s.key, Math.round((Date.parse(s.start) - of.zero) / MINUTE)]));
  // Behind: the order’s own due is set aside, so that it pushes nobody and takes nobody’s stock.
  const patient = lines.map((l) => ({
    ...l,
    due: new Date(Date.parse(room.now) + 300 * 86_400_000).toISOString(),
    weight: 0.01,
    apart: true,
  }));
  const waiting = { ...room, orders: [...room.orders, ...patient] };
  const last = workshopProject(waiting, pins);
  const after = repairPlan(waiting, base.plan.steps, { pins, draws: 0, now });
  const own = new Set(
    last.needs.supplies.flatMap((s) =>
      lines.some((l) => l.id === s.lineId) && s.batch !== null ? [s.batch] : [],
    ),
  );
  const behind = tell(last, after.plan, minutes(last, after.plan), givenOf(after.plan), own);
  if (behind.chance >= 0.8) return { behind, before: null };
  if (workshop.project.activities.length === 0) return { behind, before: null };
  const solved = solveWithHands(asking, workshop, {
    budgetMs,
    now,
    from: planFrom(workshop, base.plan.steps),
  });
  const before = tell(workshop, readPlan(asking, workshop, solved), solved.plan.starts, solved.plan.given);
  return { behind, before: before.chance > behind.chance + NOTABLE ? before : null };
}

/** @throws NothingToMakeOf for a line nothing can be made for */
function requireMakeable(room: PlanRoom, { needs }: WorkshopProject, lines: readonly PlanOrderLine[]): void {
  const lacking = needs.impossible.find((x) => lines.some((l) => l.id === x.lineId));
  if (!lacking) return;
  const line = lines.find((l) => l.id === lacking.lineId)!;
  const name = room.recipes.find((r) => r.id === line.recipeId)?.name ?? '';
  throw new NothingToMakeOf(name, unmadeOf(needs, line), lacking.why);
}

/** Who and what each step of a plan was given, for those that follow it. */
function givenOf(plan: WorkshopPlan): Record<string, string[]> {
  return Object.fromEntries(
    plan.steps.map((s) => [s.key, [s.personId, s.machineId].filter((id) => id !== null)]),
  );
}
