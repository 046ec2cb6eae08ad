import { UNATTENDED, type PlannedStep, type PlanRoom } from './room.ts';

const MINUTE = 60_000;

/** Moved by less than this, a step has not moved, minutes. */
export const HARDLY = 30;

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

/** Whether somebody or something is away while a step would run. */
export const isAway = (room: PlanRoom, id: string, { start, end }: PlannedStep) =>
  room.absences.some(
    (a) =>
      (a.who === id || a.who === null) &&
      Date.parse(a.from) < Date.parse(end) &&
      Date.parse(a.to) > Date.parse(start),
  );

/** What lies elsewhere than before, and why. */
export function movesOf(
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
  // What ends last before it, of its batch or on what it uses, and itself is not where it was; of its own stage only where nothing else is.
  const start = Date.parse(s.start);
  const inTheWay = (x: PlannedStep) => {
    const { start: begins, end } = times.get(x.key)!;
    if (end <= from || begins > start || x.key === s.key) return false;
    const isInWay =
      x.batch === s.batch ||
      (x.machineId !== null && x.machineId === s.machineId) ||
      (x.personId !== null && x.personId === s.personId);
    const then = old.get(x.key);
    return isInWay && (!then || then.end !== x.end || x.begun);
  };
  const isPart = (x: PlannedStep) => x.batch === s.batch && x.stage === s.stage;
  const all = steps.filter(inTheWay);
  const others = all.filter((x) => !isPart(x));
  const [before] = (others.length > 0 ? others : all).toSorted(
    (a, b) => times.get(b.key)!.end - times.get(a.key)!.end,
  );
  if (before) return { kind: 'after', key: before.key, code: before.code, stage: before.stage };
  return { kind: 'rule' };
}
