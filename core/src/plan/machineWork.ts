import type { Plan, PlanProject } from './project.ts';
import { readyWork } from './readyWork.ts';
import type { PlannedStep, PlanRoom, SetUp, SetUpHands } from './room.ts';
import { crewOf } from './setUp.ts';
import { setUpsOf, type MachineNeed } from './setUpsOf.ts';
import type { WorkshopProject } from './workshop.ts';

const MINUTE = 60_000;

/** Ends the name of work before a charge. */
const WORK = '/ready';

/** A spell, minutes of the project, `[from, to)`. */
type Spell = readonly [number, number];

/**
 * Who makes each machine ready for its next charge, and when. Where the charge before comes out within the plan it is done as soon after that as somebody
 * who may work there is in their hours and free, while the machine is warm; where it ran before, right before the next. What the plan itself has for
 * it is kept free until then. Where nobody is free there are no hands, for the maker to see to.
 *
 * @param needs what machines want before their charges, by the step each charge begins with
 * @param kept who did it when in the plan before, by the same steps: where that still can be, it stays
 */
export function makeReady(
  room: PlanRoom,
  { project, zero }: Pick<WorkshopProject, 'project' | 'zero'>,
  plan: Plan,
  needs: ReadonlyMap<string, MachineNeed>,
  kept: ReadonlyMap<string, SetUpHands> = new Map(),
): Map<string, SetUp> {
  const able = crewOf(room);
  const hours = new Map((project.resources ?? []).map((r) => [r.id, r.open ?? [[0, Infinity] as const]]));
  const busy = new Map<string, Spell[]>(able.map((id) => [id, []]));
  const take = (id: string, start: number, minutes: number) => {
    const spell: Spell = [start, start + minutes];
    if (minutes > 0) busy.get(id)?.push(spell);
    return spell;
  };
  for (const a of project.activities)
    if (!a.id.endsWith(WORK))
      for (const id of plan.given[a.id] ?? []) take(id, plan.starts[a.id]!, a.duration);
  const planned = new Map(
    [...needs].flatMap(([step, { from, to, setUp }]) => {
      const [start, id] = [plan.starts[workOf(step)], plan.given[workOf(step)]?.[0]];
      if (start === undefined || id === undefined || start < from || start + setUp.minutes > to) return [];
      return [[step, { id, spell: take(id, start, setUp.minutes) }] as const];
    }),
  );
  const iso = (minute: number) => new Date(zero + minute * MINUTE).toISOString();
  const stays = ({ personId: id, start: at }: SetUpHands, spell: Spell, minutes: number) => {
    const start = Math.round((Date.parse(at) - zero) / MINUTE);
    const isFree = able.includes(id) && isFreeAt(start, spell, minutes, hours.get(id) ?? [], busy.get(id)!);
    return isFree ? { id, start } : null;
  };
  const ready = new Map<string, SetUp>();
  for (const [step, { from, to, after, setUp }] of [...needs].sort(([, a], [, b]) => a.to - b.to)) {
    const own = planned.get(step);
    if (own)
      busy.set(
        own.id,
        busy.get(own.id)!.filter((spell) => spell !== own.spell),
      );
    const end = after === null ? 'last' : 'first';
    const asBefore = kept.get(step);
    let best = asBefore ? stays(asBefore, [from, to], setUp.minutes) : null;
    for (const id of best ? [] : able) {
      const start = freeIn([from, to], setUp.minutes, hours.get(id) ?? [], busy.get(id)!)[end];
      if (start === null || (best && (end === 'last' ? start <= best.start : start >= best.start))) continue;
      best = { id, start };
    }
    if (best === null) {
      ready.set(step, { ...setUp, hands: null });
      continue;
    }
    take(best.id, best.start, setUp.minutes);
    const hands = { personId: best.id, start: iso(best.start), end: iso(best.start + setUp.minutes) };
    ready.set(step, { ...setUp, hands });
  }
  return ready;
}

/** Whether something so long may start at a minute: within a spell, within one of some hours and clear of what is there already. */
const isFreeAt = (
  start: number,
  [from, to]: Spell,
  minutes: number,
  hours: readonly Spell[],
  busy: readonly Spell[],
): boolean =>
  start >= from &&
  start + minutes <= to &&
  hours.some(([a, b]) => a <= start && start + minutes <= b) &&
  busy.every(([a, b]) => b <= start || a >= start + minutes);

/** First and last start of something so long within a spell, within one of some hours and clear of what is there already; null where there is none. */
function freeIn(
  [from, to]: Spell,
  minutes: number,
  hours: readonly Spell[],
  busy: readonly Spell[],
): { first: number | null; last: number | null } {
  // It begins or ends with the spell, with hours, or where something else does: nowhere else can a first or last start lie.
  const begins = [from, ...hours.map(([a]) => a), ...busy.map(([, b]) => b)];
  const ends = [to, ...hours.map(([, b]) => b), ...busy.map(([a]) => a)];
  const isFree = (start: number) => isFreeAt(start, [from, to], minutes, hours, busy);
  const firsts = begins.filter(isFree);
  const lasts = ends.map((end) => end - minutes).filter(isFree);
  return {
    first: firsts.length > 0 ? Math.min(...firsts) : null,
    last: lasts.length > 0 ? Math.max(...lasts) : null,
  };
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
export const workOf = (step: string) => `${step}${WORK}`;

/** Needs before charges that are not in yet. */
function notBegun({ steps }: WorkshopProject, needs: ReadonlyMap<string, MachineNeed>): Open[] {
  const begun = new Set(steps.filter((s) => s.begun).map((s) => s.key));
  return [...needs].filter(([step]) => !begun.has(step));
}

/** What machines want in a plan, and how often nobody is there and free for it. */
export function openNeeds(
  room: PlanRoom,
  workshop: WorkshopProject,
  plan: Plan,
): { needs: Open[]; unmet: number } {
  const all = setUpsOf(room, workshop, plan);
  const ready = makeReady(room, workshop, plan, all);
  const needs = notBegun(workshop, all);
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
  const people = crewOf(room);
  const needs = notBegun(workshop, setUpsOf(room, workshop, plan)).filter(
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
