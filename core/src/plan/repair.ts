import { Board } from './board.ts';
import { compile, NEVER } from './compiled.ts';
import { followBatches } from './follow.ts';
import { groupsOf } from './groups.ts';
import { emptyPlan, planFrom, readPlan, withChances, type WorkshopPlan } from './planWorkshop.ts';
import { UNATTENDED, type PlannedStep, type PlanPin, type PlanRoom } from './room.ts';
import { placeAll } from './serial.ts';
import { solveProject } from './solve.ts';
import { workshopProject } from './workshop.ts';

const MINUTE = 60_000;

/** Moved by less than this, a step has not moved, minutes. */
const HARDLY = 30;

/** A step that lies elsewhere than in the plan before. */
export interface Move {
  key: string;
  code: string;
  stage: PlannedStep['stage'];
  part: number;
  from: string;
  to: string;
  /** Who or what it was given before and is now, where that changed. */
  given: { from: string | null; to: string | null } | null;
  /** What made it move: a step or a resource it waits for, itself having moved; the rules alone where nothing else. */
  why:
    | { kind: 'after'; key: string; code: string; stage: PlannedStep['stage'] }
    | { kind: 'away'; who: string }
    | { kind: 'pinned' }
    | { kind: 'rule' };
}

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
 * had, and where a promise would then be late that was not, its own steps and those in their way are planned again.
 *
 * @param before steps of the plan that is in force
 * @param keptAt since when, so that batches begun since take the places it had for them
 * @param pins what the maker has fixed by hand
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
  const workshop = workshopProject(room, pins);
  const { project } = workshop;
  if (project.activities.length === 0)
    return { plan: emptyPlan(room, workshop), moves: [], added: [], gone: kept.map((s) => s.key) };
  const old = new Map(kept.map((s) => [s.key, s]));
  const starts = Object.fromEntries(kept.map((s) => [s.key, Date.parse(s.start)]));
  const from = planFrom(workshop, starts);
  const byHand = new Set(pins.map((p) => p.step));
  const stay = giveWay(room, workshop, kept, new Set(), byHand);
  const plain = { ...project };
  let best = stay;
  const length = new Map(project.activities.map((a) => [a.id, a.duration]));
  const late = (plan: { starts: Record<string, number> }) =>
    (project.orders ?? []).filter((o) =>
      o.activities.some((id) => plan.starts[id]! + length.get(id)! > o.due),
    );
  if (!best) {
    const solved = solveProject(plain, { budgetMs, from, now });
    best = solved;
  } else if (best.worth.lateness > 1.001 * latenessOf(workshop, kept)) {
    // First only what is late gives up its place, then everything does.
    const loose = new Set(
      late(best.plan).flatMap((o) => o.activities.map((id) => id.slice(0, id.indexOf('/')))),
    );
    const some = giveWay(room, workshop, kept, loose, byHand);
    if (some && some.worth.lateness < best.worth.lateness) best = some;
    if (best.worth.lateness > 0) {
      const anew = solveProject(plain, { budgetMs, from: best.plan, now });
      // Worth its moves only where lateness shrinks by a good part.
      if (anew.worth.lateness < best.worth.lateness * 0.8) best = anew;
    }
  }
  const solved = { bound: { lateness: 0, end: 0 }, gap: 0, isProved: false, tried: 1, ...best };
  const plan = withChances(readPlan(room, workshop, solved), workshop, best.plan, draws);
  return {
    plan,
    moves: movesOf(room, plan.steps, old, new Set(pins.map((p) => p.step))),
    added: plan.steps.filter((s) => !old.has(s.key)).map((s) => s.key),
    gone: kept.filter((s) => !plan.steps.some((x) => x.key === s.key)).map((s) => s.key),
  };
}

/** Whether somebody or something is away while a step would run. */
const isAway = (room: PlanRoom, id: string, { start, end }: PlannedStep) =>
  room.absences.some(
    (a) =>
      (a.who === id || a.who === null) &&
      Date.parse(a.from) < Date.parse(end) &&
      Date.parse(a.to) > Date.parse(start),
  );

/** Weighted lateness of a plan as it was kept. */
function latenessOf(
  { project, zero }: ReturnType<typeof workshopProject>,
  kept: readonly PlannedStep[],
): number {
  const ends = new Map(kept.map((s) => [s.key, Math.round((Date.parse(s.end) - zero) / MINUTE)]));
  return (project.orders ?? []).reduce(
    (sum, o) => sum + o.weight * Math.max(0, ...o.activities.map((id) => (ends.get(id) ?? o.due) - o.due)),
    0,
  );
}

/** The plan with everything at or after where it was, in the order it was, on what it was given; batches in `loose` anywhere. */
function giveWay(
  room: PlanRoom,
  { project, zero }: ReturnType<typeof workshopProject>,
  kept: readonly PlannedStep[],
  loose: ReadonlySet<string>,
  byHand: ReadonlySet<string>,
) {
  const c = compile(project);
  const groups = groupsOf(c);
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
      : [old.get(id.replace(/\/[a-z]+\/\d+$/, '/grind/1'))?.machineId ?? was.machineId];
    const wanted = given
      .map((g) => (g === null ? -1 : (resource.get(g) ?? -1)))
      .find((r) => options.includes(r));
    if (wanted !== undefined && !isAway(room, c.resources[wanted]!.id, was)) board.wanted[k] = wanted;
  });
  project.activities.forEach(({ id }, i) => {
    const was = old.get(id);
    if (was && !loose.has(was.batch)) board.least[i] = Math.round((Date.parse(was.start) - zero) / MINUTE);
  });
  const first = groups.members.map((g) =>
    Math.min(
      ...g.map((i) => {
        const was = old.get(project.activities[i]!.id);
        if (!was) return NEVER;
        return loose.has(was.batch) ? -NEVER : Date.parse(was.start);
      }),
    ),
  );
  const order = first.map((_, g) => g).sort((a, b) => first[a]! - first[b]! || a - b);
  // Whoever finds no place with what it was given takes what is free.
  for (let turns = 0; turns <= groups.members.length; turns += 1) {
    const failed = placeAll(board, c, groups, order);
    if (failed < 0) return { plan: board.plan(), worth: board.worth() };
    const claims = groups.claims[failed]!;
    if (claims.every((k) => board.wanted[k]! < 0)) return null;
    for (const k of claims) board.wanted[k] = -1;
  }
  return null;
}

/** What lies elsewhere than before, and why. */
function movesOf(
  room: PlanRoom,
  steps: readonly PlannedStep[],
  old: ReadonlyMap<string, PlannedStep>,
  pinned: ReadonlySet<string>,
): Move[] {
  const times = new Map(steps.map((s) => [s.key, { start: Date.parse(s.start), end: Date.parse(s.end) }]));
  const hasMoved = (s: PlannedStep) => {
    const was = old.get(s.key);
    // What goes on by itself follows what somebody does.
    if (!was || s.begun || UNATTENDED.has(s.stage)) return false;
    const shift = Math.abs(Date.parse(s.start) - Date.parse(was.start)) / MINUTE;
    return shift >= HARDLY || was.personId !== s.personId || was.machineId !== s.machineId;
  };
  return steps.filter(hasMoved).map((s): Move => {
    const was = old.get(s.key)!;
    const given =
      was.personId !== s.personId
        ? { from: was.personId, to: s.personId }
        : was.machineId !== s.machineId
          ? { from: was.machineId, to: s.machineId }
          : null;
    return {
      key: s.key,
      code: s.code,
      stage: s.stage,
      part: s.part,
      from: was.start,
      to: s.start,
      given,
      why: whyOf(room, s, was, steps, old, pinned, times),
    };
  });
}

function whyOf(
  room: PlanRoom,
  s: PlannedStep,
  was: PlannedStep,
  steps: readonly PlannedStep[],
  old: ReadonlyMap<string, PlannedStep>,
  pinned: ReadonlySet<string>,
  times: ReadonlyMap<string, { start: number; end: number }>,
): Move['why'] {
  if (pinned.has(s.key)) return { kind: 'pinned' };
  const from = Date.parse(was.start);
  for (const who of [was.personId, was.machineId])
    if (who !== null && isAway(room, who, was)) return { kind: 'away', who };
  // What ends last before it, of its batch or on what it uses, and itself is not where it was.
  let before: PlannedStep | null = null;
  let last = from;
  const start = Date.parse(s.start);
  for (const x of steps) {
    const end = times.get(x.key)!.end;
    if (end <= last || times.get(x.key)!.start > start || x.key === s.key) continue;
    const isInWay =
      x.batch === s.batch ||
      (x.machineId !== null && x.machineId === s.machineId) ||
      (x.personId !== null && x.personId === s.personId);
    if (!isInWay) continue;
    const then = old.get(x.key);
    if (then && then.end === x.end && !x.begun) continue;
    before = x;
    last = end;
  }
  if (before) return { kind: 'after', key: before.key, code: before.code, stage: before.stage };
  return { kind: 'rule' };
}
