import { familyOf, PLAIN, SET_UP_MINUTES, setUpBetween } from '../grind/index.ts';
import type { Plan } from './project.ts';
import type { PlanRoom, SetUp } from './room.ts';
import { familiesOf, SET_UP_STATION } from './setUp.ts';
import type { WorkshopProject } from './workshop.ts';

/** A charge on a machine: the steps it begins and ends with, what it is, and how long it lies there. */
interface Charge {
  step: string;
  last: string;
  code: string;
  at: number;
  until: number;
  family: string;
}

/** What a machine wants before a charge, and between which minutes of the project that must be done. */
export interface MachineNeed {
  setUp: SetUp;
  /** Step with which the charge before ends; null for what ran before the plan begins. */
  after: string | null;
  from: number;
  to: number;
}

/** What each machine wants before each of its charges, by the step the charge begins with. */
export function setUpsOf(
  room: PlanRoom,
  { project, steps }: WorkshopProject,
  plan: Plan,
): Map<string, MachineNeed> {
  const families = familiesOf(room);
  const codes = new Map(steps.map((s) => [s.key, s.code]));
  const charges = new Map<string, Charge[]>();
  const duration = new Map(project.activities.map((a) => [a.id, a.duration]));
  for (const { id, from: step, to, family } of project.holds ?? []) {
    const machine = plan.given[id]?.[0];
    if (machine === undefined || family === undefined) continue;
    const until = plan.starts[to]! + duration.get(to)!;
    const charge: Charge = {
      step,
      last: to,
      code: codes.get(step) ?? '',
      at: plan.starts[step]!,
      until,
      family,
    };
    charges.set(machine, [...(charges.get(machine) ?? []), charge]);
  }
  const found = new Map<string, MachineNeed>();
  for (const machine of room.machines.filter((m) => m.station === SET_UP_STATION)) {
    const line = (charges.get(machine.id) ?? []).sort((a, b) => a.at - b.at);
    let before = machine.ranLast
      ? {
          family: familyOf(machine.ranLast),
          code: null as string | null,
          last: null as string | null,
          until: 0,
        }
      : null;
    for (const charge of line) {
      const kind =
        before && setUpBetween(families.get(before.family) ?? PLAIN, families.get(charge.family) ?? PLAIN);
      if (kind)
        found.set(charge.step, {
          setUp: { kind, minutes: SET_UP_MINUTES[kind], after: before!.code },
          after: before!.last,
          from: Math.max(0, before!.until),
          to: charge.at,
        });
      before = charge;
    }
  }
  return found;
}
