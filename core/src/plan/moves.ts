import { UNATTENDED, type PlannedStep, type PlanRoom, type SetUp } from './room.ts';

const MINUTE = 60_000;

/** Moved by less than this, a step has not moved, minutes. */
export const HARDLY = 30;

/** A step that lies elsewhere than in the plan before. */
export interface Move {
  key: string;
  code: string;
  stage: PlannedStep['stage'];
  part: number;
  /** What is done to the machine before the step, where that has moved and not, or not only, the step; null for the step itself. */
  ready: { kind: SetUp['kind']; machineId: string | null } | null;
  from: string;
  to: string;
  /** Who or what it was given before and is now, where that changed. */
  given: { from: string | null; to: string | null } | null;
  /** What made it move: a step or a resource it waits for, itself having moved; the rules alone where nothing else. */
  why:
    | { kind: 'after'; key: string; code: string; stage: PlannedStep['stage'] }
    | { kind: 'away'; who: string }
    | { kind: 'pinned' }
    /** A machine is made ready for a step that has moved. */
    | { kind: 'for'; stage: PlannedStep['stage'] }
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
  const moved = new Set(steps.filter(hasMoved).map((s) => s.key));
  const readied = steps.flatMap((s) => readyMove(room, s, old.get(s.key), moved.has(s.key)));
  const own = steps
    .filter((s) => moved.has(s.key))
    .map((s): Move => {
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
        ready: null,
        from: was.start,
        to: s.start,
        given,
        why: whyOf(room, s, was, steps, old, pinned, times),
      };
    });
  return [...own, ...readied];
}

/** That a machine is made ready at another time or by somebody else than before, where both plans have somebody do it. */
function readyMove(room: PlanRoom, s: PlannedStep, was: PlannedStep | undefined, hasMoved: boolean): Move[] {
  const [before, now] = [was?.setUp?.hands, s.setUp?.hands];
  if (!before || !now || s.begun) return [];
  const shift = Math.abs(Date.parse(now.start) - Date.parse(before.start)) / MINUTE;
  if (shift < HARDLY && before.personId === now.personId) return [];
  const { key, code, stage, part, machineId } = s;
  const isGone = isAway(room, before.personId, { ...s, start: before.start, end: before.end });
  return [
    {
      key,
      code,
      stage,
      part,
      ready: { kind: s.setUp!.kind, machineId },
      from: before.start,
      to: now.start,
      given: before.personId === now.personId ? null : { from: before.personId, to: now.personId },
      why: isGone
        ? { kind: 'away', who: before.personId }
        : hasMoved
          ? { kind: 'for', stage }
          : { kind: 'rule' },
    },
  ];
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
