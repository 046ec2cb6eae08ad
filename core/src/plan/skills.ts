import { covers, skillOf, SKILLS, type Skill } from '../skills/index.ts';
import type { PlannedStep, PlanPerson } from './room.ts';
import { UNATTENDED } from './room.ts';

/** Somebody signed off at a station. */
export interface SignedOff {
  personId: string;
  station: Skill;
}

/** People with what the plan may give them, and that at which nobody is signed off. */
export interface Allowed<P> {
  people: P[];
  /** Nobody is signed off there: the work is given as if nobody had to be. */
  open: Skill[];
}

/**
 * Keeps people to the stations they are signed off at, beside those they may work anyway; `free` may work everywhere. Where nobody
 * at all is signed off at a station, it stays as it was: the work is still to be done, and it is said.
 */
export function allowedBySignOff<P extends Pick<PlanPerson, 'id' | 'stations'>>(
  people: readonly P[],
  signed: readonly SignedOff[],
  free: ReadonlySet<string>,
): Allowed<P> {
  const may = (p: P, skill: Skill) =>
    p.stations === null || p.stations.some((station) => covers(station, skill));
  const isSigned = (p: P, skill: Skill) =>
    free.has(p.id) || signed.some((s) => s.personId === p.id && covers(s.station, skill));
  const open = SKILLS.filter((skill) => !people.some((p) => may(p, skill) && isSigned(p, skill)));
  return {
    open,
    people: people.map((p) => {
      const skills = SKILLS.filter((s) => may(p, s) && (open.includes(s) || isSigned(p, s)));
      return { ...p, stations: skills.length === SKILLS.length ? null : skills };
    }),
  };
}

/** Somebody could stand beside somebody who can, and learn it. */
export interface ChanceToLearn {
  personId: string;
  /** Whom they could stand beside. */
  teacherId: string;
  station: Skill;
  stepKey: string;
  code: string;
  /** ISO instants. */
  start: string;
  end: string;
}

/**
 * Who could learn what before a time: for each person and station they are not signed off at, the first planned step there by somebody who
 * is, during which they have nothing of their own to do and are not away. Soonest first.
 *
 * @param from steps that begin before it are past
 */
export function chancesToLearn({
  steps,
  people,
  signed,
  free,
  from,
  until,
  isThere,
}: {
  steps: readonly PlannedStep[];
  people: readonly Pick<PlanPerson, 'id'>[];
  signed: readonly SignedOff[];
  /** Who needs no sign-off. */
  free: ReadonlySet<string>;
  from: string;
  until: string;
  /** Whether somebody works between two instants. */
  isThere: (personId: string, start: string, end: string) => boolean;
}): ChanceToLearn[] {
  const can = (personId: string, skill: Skill) =>
    free.has(personId) || signed.some((s) => s.personId === personId && covers(s.station, skill));
  const hands = steps
    .filter((s) => s.personId !== null && !UNATTENDED.has(s.stage) && s.start >= from && s.start < until)
    .sort((a, b) => a.start.localeCompare(b.start) || a.key.localeCompare(b.key));
  const isBusy = (personId: string, start: string, end: string) =>
    steps.some((s) => s.personId === personId && s.start < end && s.end > start);
  const chances: ChanceToLearn[] = [];
  for (const { id } of people)
    for (const station of SKILLS) {
      if (can(id, station)) continue;
      const step = hands.find(
        (s) =>
          skillOf(s.stage, s.station) === station &&
          s.personId !== id &&
          can(s.personId!, station) &&
          !isBusy(id, s.start, s.end) &&
          isThere(id, s.start, s.end),
      );
      if (step)
        chances.push({
          personId: id,
          teacherId: step.personId!,
          station,
          stepKey: step.key,
          code: step.code,
          start: step.start,
          end: step.end,
        });
    }
  return chances.sort((a, b) => a.start.localeCompare(b.start) || a.personId.localeCompare(b.personId));
}
