import type { Plan, PlanProject } from './project.ts';
import { readyWork } from './readyWork.ts';
import type { PlannedStep, PlanRoom, SetUp } from './room.ts';
import { maySetUp } from './setUp.ts';
import { setUpsOf, type MachineNeed } from './setUpsOf.ts';
import type { WorkshopProject } from './workshop.ts';

const MINUTE = 60_000;

/** A spell, minutes of the project, `[from, to)`. */
type Spell = readonly [number, number];

/**
 * Who makes each machine ready for its next charge, and when: the last time before it is filled at which somebody who may work there is in
 * their hours and free, after the charge before is out; where the plan itself has that work, it is as it has it. Where nobody is, there are no hands, for the maker to see to.
 *
 * @param needs what machines want before their charges, by the step each charge begins with
 */
export function makeReady(
  room: PlanRoom,
  { project, zero }: Pick<WorkshopProject, 'project' | 'zero'>,
  plan: Plan,
  needs: ReadonlyMap<string, MachineNeed>,
): Map<string, SetUp> {
  const able = room.people.filter(maySetUp);
  const hours = new Map((project.resources ?? []).map((r) => [r.id, r.open ?? [[0, Infinity] as const]]));
  const busy = new Map<string, Spell[]>(able.map((p) => [p.id, []]));
  for (const a of project.activities)
    for (const id of plan.given[a.id] ?? []) {
      const from = plan.starts[a.id]!;
      if (a.duration > 0) busy.get(id)?.push([from, from + a.duration]);
    }
  const iso = (minute: number) => new Date(zero + minute * MINUTE).toISOString();
  const planned = (step: string, { from, to, setUp }: MachineNeed): { id: string; start: number } | null => {
    const start = plan.starts[workOf(step)];
    const id = plan.given[workOf(step)]?.[0];
    return start !== undefined && id !== undefined && start >= from && start + setUp.minutes <= to
      ? { id, start }
      : null;
  };
  const ready = new Map<string, SetUp>();
  for (const [step, need] of [...needs].sort(([, a], [, b]) => a.to - b.to)) {
    let best = planned(step, need);
    for (const { id } of best ? [] : able) {
      const start = lastFree(hours.get(id) ?? [], busy.get(id)!, [need.from, need.to], need.setUp.minutes);
      if (start !== null && (best === null || start > best.start)) best = { id, start };
    }
    if (best === null) {
      ready.set(step, { ...need.setUp, hands: null });
      continue;
    }
    const end = best.start + need.setUp.minutes;
    busy.get(best.id)!.push([best.start, end]);
    ready.set(step, { ...need.setUp, hands: { personId: best.id, start: iso(best.start), end: iso(end) } });
  }
  return ready;
}

/** Last start of something so long within a spell, within one of some hours and clear of what is there already; null where there is none. */
function lastFree(
  hours: readonly Spell[],
  busy: readonly Spell[],
  [from, to]: Spell,
  minutes: number,
): number | null {
  // Something ends with the spell, with hours, or where something else begins: nowhere else can a last start lie.
  const ends = [to, ...hours.map(([, b]) => b), ...busy.map(([a]) => a)];
  const isFree = (start: number) =>
    start >= from &&
    start + minutes <= to &&
    hours.some(([a, b]) => a <= start && start + minutes <= b) &&
    busy.every(([a, b]) => b <= start || a >= start + minutes);
  const starts = ends.map((end) => end - minutes).filter(isFree);
  return starts.length > 0 ? Math.max(...starts) : null;
}

/** Work on machines as activities of a project: after the charge before, before its own. */
export function withWork(project: PlanProject, able: readonly string[], needs: readonly Open[]): PlanProject {
  return {
    ...project,
    activities: [
      ...project.activities,
      ...needs.map(([step, { setUp }]) => ({
        id: workOf(step),
        duration: setUp.minutes,
        uses: [{ oneOf: able }],
      })),
    ],
    waits: [
      ...(project.waits ?? []),
      ...needs.flatMap(([step, { after }]) => [
        ...(after === null ? [] : [{ from: after, to: workOf(step) }]),
        { from: workOf(step), to: step },
      ]),
    ],
  };
}

/** A machine’s need before a charge that is not in yet. */
export type Open = readonly [step: string, need: MachineNeed];

/** Name of the work before a charge, by the step it begins with. */
export const workOf = (step: string) => `${step}/ready`;

/** What machines want in a plan, and how often nobody is there and free for it. */
export function openNeeds(
  room: PlanRoom,
  workshop: WorkshopProject,
  plan: Plan,
): { needs: Open[]; unmet: number } {
  const begun = new Set(workshop.steps.filter((s) => s.begun).map((s) => s.key));
  const all = setUpsOf(room, workshop, plan);
  const ready = makeReady(room, workshop, plan, all);
  const needs = [...all].filter(([step]) => !begun.has(step));
  return { needs, unmet: needs.filter(([step]) => ready.get(step)!.hands === null).length };
}

/**
 * A workshop’s project with the work on machines that a plan in force has between its charges, and the plan’s steps with that work among them: what
 * is mended lets people make machines ready when they mean to.
 */
export function withKeptWork(
  room: PlanRoom,
  workshop: WorkshopProject,
  kept: readonly PlannedStep[],
  plan: Plan,
): { workshop: WorkshopProject; laid: PlannedStep[] } {
  const hands = new Map(readyWork(kept).map((w) => [w.step.key, w.hands]));
  const known = new Set(kept.map((s) => s.key));
  const people = room.people.filter(maySetUp).map((p) => p.id);
  const needs = openNeeds(room, workshop, plan).needs.filter(
    ([step, { after }]) => hands.has(step) && (after === null || known.has(after)),
  );
  if (needs.length === 0 || people.length === 0) return { workshop, laid: [...kept] };
  const by = new Map(kept.map((s) => [s.key, s]));
  const work = needs.map(([step]): PlannedStep => ({
    ...by.get(step)!,
    key: workOf(step),
    ...hands.get(step)!,
    machineId: null,
    begun: false,
  }));
  return {
    workshop: { ...workshop, project: withWork(workshop.project, people, needs) },
    laid: [...kept, ...work],
  };
}
