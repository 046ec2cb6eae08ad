import { Board } from './board.ts';
import { compile, NEVER, type Compiled } from './compiled.ts';
import { followBatches } from './follow.ts';
import { groupsOf, type Groups } from './groups.ts';
import { HARDLY, isAway, movesOf, type Move } from './moves.ts';
import { emptyPlan, planFrom, readPlan, withChances, type WorkshopPlan } from './planWorkshop.ts';
import { UNATTENDED, type PlannedStep, type PlanPin, type PlanRoom } from './room.ts';
import { placeAll } from './serial.ts';
import type { Plan, PlanWorth } from './project.ts';
import { solveProject } from './solve.ts';
import { workshopProject, type WorkshopProject } from './workshop.ts';

const MINUTE = 60_000;

/** After every instant, ms. */
const NEVER_MS = 1e15;

/** A plan mended, and what it changes. */
export interface Repair {
  plan: WorkshopPlan;
  moves: Move[];
  /** Steps the plan has that the one before had not. */
  added: string[];
  /** Steps that are no more. */
  gone: string[];
}

/**
 * Mends a plan round what has happened: everything stays where it was unless it can not; what must move gives way in the order the plan
 * had, and where promises would then be later than they were, late batches and those in their way are planned again, as far as that wins more
 * than the moves it costs.
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
    };
  const { workshop } = ready;
  const found =
    mendIn(ready, kept, new Set(pins.map((p) => p.step)), (from) =>
      budgetMs > 0 ? solveProject({ ...workshop.project }, { budgetMs, from, now }) : null,
    ) ?? solveProject({ ...workshop.project }, { budgetMs, from: planFrom(workshop, kept), now });
  return repairOf(ready, kept, found, pins, draws);
}

/** A room made ready for plans of it to be mended again and again. */
export interface ReadyRoom {
  room: PlanRoom;
  workshop: WorkshopProject;
  compiled: Compiled;
  groups: Groups;
}

/** See {@link ReadyRoom}; null where there is nothing to plan. */
export function readyRoom(room: PlanRoom, pins: readonly PlanPin[]): ReadyRoom | null {
  const workshop = workshopProject(room, pins);
  if (workshop.project.activities.length === 0) return null;
  const compiled = compile(workshop.project);
  return { room, workshop, compiled, groups: groupsOf(compiled) };
}

/** A plan of a project and what it is worth. */
interface Found {
  plan: Plan;
  worth: PlanWorth;
}

/**
 * The plan with few changes: everything where it was unless it can not; where promises then slip, the late ones loosened, then those in their
 * way, then everything planned anew, each taken only where the time it wins is worth the steps it moves. Null where something finds no place.
 */
function mendIn(
  ready: ReadyRoom,
  kept: readonly PlannedStep[],
  byHand: ReadonlySet<string>,
  anew: (from: Plan) => Found | null,
): Found | null {
  const { workshop } = ready;
  const stay = leastMoved(ready, kept, { byHand });
  if (!stay) return null;
  const promised = latenessOf(workshop, kept);
  let best = { ...stay, cost: costOf(ready, kept, stay) };
  if (stay.worth.lateness <= promised + HARDLY) return best;
  const consider = (f: Found | null) => {
    if (!f) return;
    const cost = costOf(ready, kept, f);
    if (cost < best.cost) best = { ...f, cost };
  };
  const late = lateBatches(ready, stay);
  consider(giveWay(ready, kept, { byHand, loose: late }));
  consider(giveWay(ready, kept, { byHand, loose: inTheWayOf(late, kept) }));
  // Whoever plans anew can win no more than what is late.
  if (best.worth.lateness > promised + HARDLY) consider(anew(best.plan));
  return best;
}

/** What a mended plan costs: lateness, weighted minutes, and the steps it moves. */
const costOf = (ready: ReadyRoom, kept: readonly PlannedStep[], f: Found) =>
  f.worth.lateness + MOVE_WORTH * movedIn(ready, f, kept);

/**
 * The plan where it was but for what can not be: either all that waits for it gives way, or its batches find new places among the others, which
 * stay; whichever costs less. Null where something finds no place.
 */
export function leastMoved(ready: ReadyRoom, kept: readonly PlannedStep[], how: GivingWay): Found | null {
  const pushed = giveWay(ready, kept, how);
  const last = disturbed(ready, kept, how.later);
  if (last.size === 0) return pushed;
  const among = giveWay(ready, kept, { ...how, last });
  if (!pushed || !among) return pushed ?? among;
  return costOf(ready, kept, among) < costOf(ready, kept, pushed) ? among : pushed;
}

/** Batches with a step that can not begin where it was: somebody is away, it began otherwise, or it was put off. */
function disturbed(
  { room, workshop: { zero }, compiled: c }: ReadyRoom,
  kept: readonly PlannedStep[],
  later: ReadonlyMap<string, number> = new Map(),
): Set<string> {
  const old = new Map(kept.map((s) => [s.key, s]));
  const found = new Set<string>();
  c.project.activities.forEach(({ id }, i) => {
    const was = old.get(id);
    if (!was) return;
    const start = (Date.parse(was.start) - zero) / MINUTE;
    const least = Math.max(c.notBefore[i]!, later.get(id) ?? 0, c.fixedAt[i]!);
    const isGone = [was.personId, was.machineId].some((who) => who !== null && isAway(room, who, was));
    if (isGone || least > start + HARDLY) found.add(was.batch);
  });
  return found;
}

/** A step that is moved must win so much lateness, weighted minutes: people have set their days by it. */
const MOVE_WORTH = 240;

/** How many steps somebody does lie elsewhere than before. */
function movedIn({ workshop }: ReadyRoom, { plan }: Found, kept: readonly PlannedStep[]): number {
  let moved = 0;
  for (const s of kept) {
    const start = plan.starts[s.key];
    if (start === undefined || s.begun || UNATTENDED.has(s.stage)) continue;
    if (Math.abs(start - (Date.parse(s.start) - workshop.zero) / MINUTE) >= HARDLY) moved += 1;
  }
  return moved;
}

/** Batches of orders that are late in a plan. */
function lateBatches({ workshop: { project } }: ReadyRoom, { plan }: Found): Set<string> {
  const length = new Map(project.activities.map((a) => [a.id, a.duration]));
  return new Set(
    (project.orders ?? [])
      .filter((o) => o.activities.some((id) => plan.starts[id]! + length.get(id)! > o.due))
      .flatMap((o) => o.activities.map((id) => id.slice(0, id.indexOf('/')))),
  );
}

/** Some batches, and those that have a machine right before one of them. */
function inTheWayOf(batches: ReadonlySet<string>, kept: readonly PlannedStep[]): Set<string> {
  const all = new Set(batches);
  const byMachine = new Map<string, PlannedStep[]>();
  for (const s of kept)
    if (s.machineId !== null) byMachine.set(s.machineId, [...(byMachine.get(s.machineId) ?? []), s]);
  for (const steps of byMachine.values()) {
    const inOrder = steps.toSorted((a, b) => a.start.localeCompare(b.start));
    inOrder.forEach((s, i) => {
      if (batches.has(s.batch) && i > 0) all.add(inOrder[i - 1]!.batch);
    });
  }
  return all;
}

/** A found plan as a repair of the one before. */
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
  };
}

/** Weighted lateness of a plan as it was kept. */
function latenessOf({ project, zero }: WorkshopProject, kept: readonly PlannedStep[]): number {
  const ends = new Map(kept.map((s) => [s.key, Math.round((Date.parse(s.end) - zero) / MINUTE)]));
  return (project.orders ?? []).reduce(
    (sum, o) => sum + o.weight * Math.max(0, ...o.activities.map((id) => (ends.get(id) ?? o.due) - o.due)),
    0,
  );
}

/** How a plan gives way. */
interface GivingWay {
  /** Steps whoever is free does. */
  byHand: ReadonlySet<string>;
  /** Batches that may lie anywhere. */
  loose?: ReadonlySet<string>;
  /** Batches that look for a place once all others have theirs. */
  last?: ReadonlySet<string>;
  /** Steps that begin no earlier than a minute. */
  later?: ReadonlyMap<string, number>;
}

/**
 * The plan with everything at or after where it was, in the order it was, on what it was given.
 *
 * @returns null where something finds no place
 */
function giveWay(
  { room, workshop: { project, zero }, compiled: c, groups }: ReadyRoom,
  kept: readonly PlannedStep[],
  { byHand, loose = new Set(), last = new Set(), later = new Map() }: GivingWay,
): Found | null {
  const board = new Board(c, groups);
  const old = new Map(kept.map((s) => [s.key, s]));
  const resource = new Map(c.resources.map((r, k) => [r.id, k]));
  c.claims.forEach(({ first, options, timed }, k) => {
    const { id } = c.project.activities[first]!;
    const was = old.get(id);
    // Whoever is free does what was moved by hand.
    if (!was || loose.has(was.batch) || (timed && byHand.has(id))) return;
    const given = timed
      ? [was.personId, was.machineId]
      : [was.machineId, old.get(id.replace(/\/[a-z]+\/\d+$/, '/grind/1'))?.machineId ?? null];
    const wanted = given
      .map((g) => (g === null ? -1 : (resource.get(g) ?? -1)))
      .find((r) => options.includes(r));
    if (wanted !== undefined && !isAway(room, c.resources[wanted]!.id, was)) board.wanted[k] = wanted;
  });
  project.activities.forEach(({ id }, i) => {
    const was = old.get(id);
    if (was && !loose.has(was.batch)) board.least[i] = Math.round((Date.parse(was.start) - zero) / MINUTE);
    board.least[i] = Math.max(board.least[i]!, later.get(id) ?? -NEVER);
  });
  const first = groups.members.map((g) =>
    Math.min(
      ...g.map((i) => {
        const was = old.get(project.activities[i]!.id);
        if (!was) return NEVER_MS;
        if (last.has(was.batch)) return NEVER_MS / 2 + Date.parse(was.start);
        return loose.has(was.batch) ? -NEVER : Date.parse(was.start);
      }),
    ),
  );
  const order = first.map((_, g) => g).sort((a, b) => first[a]! - first[b]! || a - b);
  // Whoever finds no place with what it was given takes what is free.
  for (let turns = 0; turns <= groups.members.length; turns += 1) {
    const failed = placeAll(board, groups, order);
    if (failed < 0) return { plan: board.plan(), worth: board.worth() };
    const claims = groups.claims[failed]!;
    if (claims.every((k) => board.wanted[k]! < 0)) return null;
    for (const k of claims) board.wanted[k] = -1;
  }
  return null;
}
