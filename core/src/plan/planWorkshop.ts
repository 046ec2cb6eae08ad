import { compile, NEVER } from './compiled.ts';
import { orderChances } from './chances.ts';
import { latestStarts } from './latest.ts';
import { solveWithHands } from './hands.ts';
import { makeReady } from './machineWork.ts';
import { planFrom } from './planFrom.ts';
import type { Needs } from './needs.ts';
import { readyWork } from './readyWork.ts';
import type { PlanBound } from './bounds.ts';
import type { Plan, PlanProject, PlanWorth } from './project.ts';
import {
  STATION_OF_STAGE,
  UNATTENDED,
  type PlannedStep,
  type PlanOrderLine,
  type PlanPin,
  type PlanRoom,
} from './room.ts';
import type { Solved, SolveOptions } from './solve.ts';
import { setUpsOf } from './setUpsOf.ts';
import { orderOf, spareOf } from './orders.ts';
import { workshopProject, type WorkshopProject } from './workshop.ts';

const MINUTE = 60_000;

/** An order in a plan. */
export interface PlannedOrder {
  /** Id of the order or stock aim. */
  orderId: string;
  due: string;
  /** When all its bars that can be made are there; null where they lie in stock already. */
  ready: string | null;
  /** Chance to be in time, 0–1; null until it has been tried on drawn durations. */
  chance: number | null;
  /** Codes of the batches it waits for. */
  codes: string[];
  /** Bars of it that nothing can be made from: no lot is left, or none is named. With any it is never in time. */
  unmade: number;
  /**
   * How surely there are enough bars where its batches are in time, 0–1 (WorkshopProject’s enough), what is made to spare for it counted as far as that is in
   * time too; nothing is said of it where left out.
   */
  enough?: number;
  /** When what is made to spare for it is there as well; left out where nothing is. */
  spareBy?: string;
}

/** Chance that an order has all its bars in time, 0–1: that they are ready, and that they are enough; null until that has been tried. */
export const keptChance = ({ chance, enough = 1 }: Pick<PlannedOrder, 'chance' | 'enough'>): number | null =>
  chance === null ? null : chance * enough;

/** Whether a plan has an order late: some of it after its day, or some of it never. */
export const isLate = ({ due, ready, unmade }: Pick<PlannedOrder, 'due' | 'ready' | 'unmade'>): boolean =>
  unmade > 0 || (ready !== null && Date.parse(ready) > Date.parse(due));

/** A plan of the workshop, in its own words. */
export interface WorkshopPlan {
  /** ISO instant it was made for. */
  at: string;
  steps: PlannedStep[];
  orders: PlannedOrder[];
  needs: Needs;
  worth: PlanWorth;
  bound: PlanBound;
  gap: number;
  isProved: boolean;
  tried: number;
  /** What is busiest until the last promise: id of a machine, person or mould, and the share of its open time. */
  busiest: { id: string; share: number }[];
}

/** How the workshop is planned. */
export interface WorkshopPlanOptions extends Omit<SolveOptions, 'from' | 'onBetter'> {
  pins?: readonly PlanPin[];
  /** Steps of a plan to begin from. */
  from?: readonly PlannedStep[];
  onBetter?: (plan: WorkshopPlan) => void;
  /** Draws for the chances; 0 leaves them out. */
  draws?: number;
}

/**
 * Plans the workshop: from what is promised to who does what when.
 *
 * @throws NoPlan where something fits nowhere, RangeError for what cannot be read
 */
export function planWorkshop(
  room: PlanRoom,
  { pins = [], from, onBetter, draws = 150, ...options }: WorkshopPlanOptions = {},
): WorkshopPlan {
  const workshop = workshopProject(room, pins);
  if (workshop.project.activities.length === 0) return emptyPlan(room, workshop);
  const solved = solveWithHands(room, workshop, {
    ...options,
    ...(from && { from: planFrom(workshop, from) }),
    onBetter: (so) => onBetter?.(readPlan(room, workshop, so)),
  });
  return withChances(readPlan(room, workshop, solved), workshop, solved.plan, draws);
}

/** A plan with the chance of each of its orders. */
export function withChances(
  plan: WorkshopPlan,
  workshop: WorkshopProject,
  solved: Plan,
  draws: number,
): WorkshopPlan {
  if (draws === 0) return plan;
  const chances = new Map(orderChances(workshop, solved, draws).map((o) => [o.orderId, o.chance]));
  return {
    ...plan,
    orders: plan.orders.map((o): PlannedOrder => {
      const chance = o.unmade > 0 ? 0 : o.ready === null ? 1 : (chances.get(o.orderId) ?? null);
      const spared = chances.get(spareOf(o.orderId));
      const enough = workshop.enough.get(o.orderId);
      if (spared === undefined || !enough || !chance) return { ...o, chance };
      return { ...o, chance, enough: enough.without + (enough.with - enough.without) * (spared / chance) };
    }),
  };
}

/**
 * What was solved, told in steps and orders of the workshop.
 *
 * @param kept the plan before: who made machines ready when stays where it can
 */
export function readPlan(
  room: PlanRoom,
  workshop: WorkshopProject,
  solved: Omit<Solved, 'plan'> & { plan: Plan },
  kept: readonly PlannedStep[] = [],
): WorkshopPlan {
  const { project, steps, needs, zero } = workshop;
  const { plan } = solved;
  // Latest starts are by what is promised, not by what is aimed at.
  const c = compile({
    ...project,
    orders: (project.orders ?? []).map((o) => ({ ...o, due: workshop.due.get(o.id) ?? o.due })),
  });
  const latest = latestStarts(c, plan);
  const iso = (minute: number) => new Date(zero + minute * MINUTE).toISOString();
  const people = new Set(room.people.map((p) => p.id));
  const machines = new Set(room.machines.map((m) => m.id));
  const held = new Map<string, string>();
  for (const hold of project.holds ?? []) {
    const id = plan.given[hold.id]?.[0];
    if (id !== undefined && machines.has(id)) held.set(hold.id, id);
  }
  const before = new Map(readyWork(kept).map((w) => [w.step.key, w.hands]));
  const setUps = makeReady(room, workshop, plan, setUpsOf(room, workshop, plan), before);
  const read = steps.map((step, i): PlannedStep => {
    const given = plan.given[step.key] ?? [];
    const start = plan.starts[step.key]!;
    const { key, batch, code, batchId, recipeId, lotId, stage, part, parts, massMg, bars, begun } = step;
    return {
      key,
      batch,
      code,
      batchId,
      recipeId,
      lotId,
      stage,
      station: STATION_OF_STAGE[stage],
      part,
      parts,
      start: iso(start),
      end: iso(start + c.duration[i]!),
      latest: latest[i]! >= NEVER ? null : iso(latest[i]!),
      setUp: setUps.get(key) ?? null,
      personId: UNATTENDED.has(stage) ? null : (given.find((id) => people.has(id)) ?? null),
      machineId: given.find((id) => machines.has(id)) ?? held.get(step.hold ?? '') ?? step.begunOn,
      begun,
      massMg,
      ...(bars !== undefined && { bars }),
    };
  });
  return {
    at: room.now,
    steps: read,
    orders: ordersOf(workshop, plan, iso),
    needs,
    worth: solved.worth,
    bound: solved.bound,
    gap: solved.gap,
    isProved: solved.isProved,
    tried: solved.tried,
    busiest: busiestOf(project, plan),
  };
}

/** Bars of a line that neither stock nor any batch gives. */
export const unmadeOf = (needs: Needs, line: Pick<PlanOrderLine, 'id' | 'bars'>): number =>
  line.bars - needs.supplies.reduce((sum, s) => sum + (s.lineId === line.id && !s.spare ? s.bars : 0), 0);

function ordersOf(
  { project, needs, steps, enough, due: dues }: WorkshopProject,
  plan: Plan,
  iso: (minute: number) => string,
): PlannedOrder[] {
  const duration = new Map(project.activities.map((a) => [a.id, a.duration]));
  const codeOf = new Map(steps.map((s) => [s.batch, s.code]));
  const lines = new Map(needs.lines.map((l) => [l.id, l]));
  const batches = new Map<string, Set<string>>();
  const due = new Map<string, string>();
  const unmade = new Map<string, number>();
  const note = (lineId: string) => {
    const line = lines.get(lineId)!;
    const id = orderOf(line);
    if ((due.get(id) ?? '9') > line.due) due.set(id, line.due);
    const set = batches.get(id) ?? new Set();
    batches.set(id, set);
    return { id, line, set };
  };
  for (const { lineId, batch } of needs.supplies) {
    const { set } = note(lineId);
    if (batch !== null) set.add(batch);
  }
  for (const { lineId } of needs.impossible) {
    const { id, line } = note(lineId);
    unmade.set(id, (unmade.get(id) ?? 0) + unmadeOf(needs, line));
  }
  const solved = new Map((project.orders ?? []).map((o) => [o.id, o]));
  return [...batches].map(([orderId, of]) => {
    const endOf = (id: string) => {
      const activities = solved.get(id)?.activities ?? [];
      return activities.length > 0
        ? Math.max(...activities.map((a) => plan.starts[a]! + duration.get(a)!))
        : null;
    };
    const ready = endOf(orderId);
    const spareBy = endOf(spareOf(orderId));
    const isSpared = spareBy !== null && spareBy <= dues.get(spareOf(orderId))!;
    const lacking = unmade.get(orderId) ?? 0;
    return {
      orderId,
      due: due.get(orderId)!,
      ready: ready === null ? null : iso(ready),
      chance: lacking > 0 ? 0 : ready === null ? 1 : null,
      codes: [...of].flatMap((b) => codeOf.get(b) ?? []),
      unmade: lacking,
      enough: enough.get(orderId)?.[isSpared ? 'with' : 'without'],
      ...(spareBy !== null && { spareBy: iso(spareBy) }),
    };
  });
}

/** A resource that is always open is looked at over a day at least, minutes. */
const DAY = 24 * 60;

/**
 * Shares of open time in which each resource of capacity 1 works, until the last order is ready; the busiest first. A shift that has begun by then
 * counts to its end, so that one short step does not fill all there is.
 */
function busiestOf(project: PlanProject, plan: Plan): { id: string; share: number }[] {
  const duration = new Map(project.activities.map((a) => [a.id, a.duration]));
  const end = (id: string) => plan.starts[id]! + duration.get(id)!;
  const promised = (project.orders ?? []).flatMap((o) => o.activities);
  const last = Math.max(
    1,
    ...(promised.length > 0 ? promised : project.activities.map((x) => x.id)).map(end),
  );
  const resources = (project.resources ?? []).map((r) => {
    const until = r.open
      ? (r.open.find(([a, b]) => a < last && last <= b)?.[1] ?? last)
      : Math.max(last, DAY);
    return { ...r, until };
  });
  const untilOf = new Map(resources.map((r) => [r.id, r.until]));
  const work = new Map<string, number>();
  const add = (id: string | undefined, from: number, to: number, amount = 1) => {
    const until = id === undefined ? undefined : untilOf.get(id);
    if (id !== undefined && until !== undefined)
      work.set(id, (work.get(id) ?? 0) + amount * Math.max(0, Math.min(to, until) - Math.max(0, from)));
  };
  for (const a of project.activities)
    (a.uses ?? []).forEach((use, k) => add(plan.given[a.id]?.[k], plan.starts[a.id]!, end(a.id), use.amount));
  for (const h of project.holds ?? []) add(plan.given[h.id]?.[0], plan.starts[h.from]!, end(h.to), h.amount);
  return resources
    .flatMap(({ id, open, capacity, until }) => {
      const there = open
        ? open.reduce((s, [a, b]) => s + Math.max(0, Math.min(b, until) - Math.max(0, a)), 0)
        : until;
      return there > 0 && work.has(id) ? [{ id, share: work.get(id)! / (there * capacity) }] : [];
    })
    .sort((a, b) => b.share - a.share);
}

/** Nothing is to be done: what is promised lies in stock, or nothing is. */
export function emptyPlan(room: PlanRoom, workshop: WorkshopProject): WorkshopPlan {
  const iso = () => room.now;
  return {
    at: room.now,
    steps: [],
    orders: ordersOf(workshop, { starts: {}, given: {} }, iso),
    needs: workshop.needs,
    worth: { lateness: 0, end: 0, unevenness: 0 },
    bound: { lateness: 0, end: 0 },
    gap: 0,
    isProved: true,
    tried: 0,
    busiest: [],
  };
}
