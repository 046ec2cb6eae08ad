import { Board } from './board.ts';
import { compile, NEVER, type Compiled } from './compiled.ts';
import { groupsOf, type Groups } from './groups.ts';
import { HARDLY, isAway } from './moves.ts';
import { withKeptWork } from './machineWork.ts';
import { planFrom } from './planFrom.ts';
import { NoPlan, type Plan, type PlanWorth } from './project.ts';
import { UNATTENDED, type PlannedStep, type PlanPin, type PlanRoom } from './room.ts';
import { placeAll } from './serial.ts';
import { workshopProject, type WorkshopProject } from './workshop.ts';

const MINUTE = 60_000;

/** After every instant, ms. */
const NEVER_MS = 1e15;

/** A room made ready for plans of it to be mended again and again. */
export interface ReadyRoom {
  room: PlanRoom;
  workshop: WorkshopProject;
  compiled: Compiled;
  groups: Groups;
  /** Steps of the plan in force, with the work on machines between its charges. */
  laid: readonly PlannedStep[];
}

/** A plan in force made ready to be mended, see {@link ReadyRoom}; null where there is nothing to plan. */
export function readyRoom(
  room: PlanRoom,
  pins: readonly PlanPin[],
  kept: readonly PlannedStep[],
): ReadyRoom | null {
  const workshop = workshopProject(room, pins);
  if (workshop.project.activities.length === 0) return null;
  const ready = (of: Pick<ReadyRoom, 'workshop' | 'laid'>): ReadyRoom => {
    const compiled = compile(of.workshop.project);
    return { room, ...of, compiled, groups: groupsOf(compiled) };
  };
  try {
    return ready(withKeptWork(room, workshop, kept, planFrom(workshop, kept)));
  } catch (e) {
    // What has begun since, or was fixed by hand, leaves no room for work on a machine where it was.
    if (!(e instanceof NoPlan)) throw e;
    return ready({ workshop, laid: kept });
  }
}

/** A plan of a project and what it is worth. */
export interface Found {
  plan: Plan;
  worth: PlanWorth;
}

/** How a plan gives way. */
export interface GivingWay {
  /** Steps whoever is free does. */
  byHand: ReadonlySet<string>;
  /** Batches that may lie anywhere. */
  loose?: ReadonlySet<string>;
  /** By how much batches look for their places after, or before, their turn, ms. */
  shift?: ReadonlyMap<string, number>;
  /** Steps that begin no earlier than a minute. */
  later?: ReadonlyMap<string, number>;
}

/**
 * The plan with everything at or after where it was, in the order it was, on what it was given; but for what may lie anywhere.
 *
 * @returns null where something finds no place
 */
export function giveWay(
  { room, workshop: { project, zero }, compiled: c, groups }: ReadyRoom,
  kept: readonly PlannedStep[],
  { byHand, loose = new Set(), shift = new Map(), later = new Map() }: GivingWay,
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
    if (wanted === undefined || isAway(room, c.resources[wanted]!.id, was)) return;
    // Hands change where that is sooner; machines with a charge do not.
    if (timed) board.preferred[k] = wanted;
    else board.wanted[k] = wanted;
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
        const by = shift.get(was.batch) ?? (loose.has(was.batch) ? -NEVER_MS : 0);
        return Date.parse(was.start) + by;
      }),
    ),
  );
  const order = first.map((_, g) => g).sort((a, b) => first[a]! - first[b]! || a - b);
  return placeNear(board, groups, order);
}

/**
 * Places all groups in an order; whoever finds no place with what it was to have takes what is free.
 *
 * @returns null where something finds no place
 */
export function placeNear(board: Board, groups: Groups, order: readonly number[]): Found | null {
  for (let turns = 0; turns <= groups.members.length; turns += 1) {
    const failed = placeAll(board, groups, order);
    if (failed < 0) return { plan: board.plan(), worth: board.worth() };
    const claims = groups.claims[failed]!;
    if (claims.every((k) => board.wanted[k]! < 0)) return null;
    for (const k of claims) board.wanted[k] = -1;
  }
  return null;
}

/** What a mended plan costs: lateness, weighted minutes, and the steps it moves. */
export const costOf = (ready: ReadyRoom, kept: readonly PlannedStep[], f: Found) =>
  f.worth.lateness + MOVE_WORTH * movedIn(ready, f, kept);

/**
 * The plan where it was but for what can not be: either all that waits for it gives way, or its batches find new places among the others, which
 * stay; whichever costs less. Null where something finds no place.
 */
export function leastMoved(ready: ReadyRoom, kept: readonly PlannedStep[], how: GivingWay): Found | null {
  const pushed = giveWay(ready, kept, how);
  const last = disturbed(ready, kept, how.later);
  if (last.size === 0) return pushed;
  const among = giveWay(ready, kept, { ...how, shift: new Map([...last].map((b) => [b, LAST])) });
  if (!pushed || !among) return pushed ?? among;
  return costOf(ready, kept, among) < costOf(ready, kept, pushed) ? among : pushed;
}

/** After all others, ms. */
const LAST = NEVER_MS / 4;

/** Batches with a step that can not begin where it was: somebody is away, it began otherwise, or it was put off. */
export function disturbed(
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
export function movedIn({ workshop }: ReadyRoom, { plan }: Found, kept: readonly PlannedStep[]): number {
  let moved = 0;
  for (const s of kept) {
    const start = plan.starts[s.key];
    if (start === undefined || s.begun || UNATTENDED.has(s.stage)) continue;
    if (Math.abs(start - (Date.parse(s.start) - workshop.zero) / MINUTE) >= HARDLY) moved += 1;
  }
  return moved;
}
