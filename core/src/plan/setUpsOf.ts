import { familyOf, PLAIN, SET_UP_MINUTES, setUpBetween } from '../grind/index.ts';
import type { Plan } from './project.ts';
import type { PlanRoom, SetUp } from './room.ts';
import { familiesOf, SET_UP_STATION } from './setUp.ts';
import type { WorkshopProject } from './workshop.ts';

/** A charge on a machine: the step it begins with, and what it is. */
interface Charge {
  step: string;
  code: string;
  at: number;
  family: string;
}

/** What each machine wants before each of its charges, by the step the charge begins with. */
export function setUpsOf(
  room: PlanRoom,
  { project, steps }: WorkshopProject,
  plan: Plan,
): Map<string, SetUp> {
  const families = familiesOf(room);
  const codes = new Map(steps.map((s) => [s.key, s.code]));
  const charges = new Map<string, Charge[]>();
  const add = (machine: string | undefined, step: string, family: string | undefined) => {
    if (machine === undefined || family === undefined) return;
    const charge = { step, code: codes.get(step) ?? '', at: plan.starts[step]!, family };
    charges.set(machine, [...(charges.get(machine) ?? []), charge]);
  };
  for (const h of project.holds ?? []) add(plan.given[h.id]?.[0], h.from, h.family);
  const found = new Map<string, SetUp>();
  for (const machine of room.machines.filter((m) => m.station === SET_UP_STATION)) {
    const line = (charges.get(machine.id) ?? []).sort((a, b) => a.at - b.at);
    let before = machine.ranLast ? { family: familyOf(machine.ranLast), code: null as string | null } : null;
    for (const charge of line) {
      const kind =
        before && setUpBetween(families.get(before.family) ?? PLAIN, families.get(charge.family) ?? PLAIN);
      if (kind) found.set(charge.step, { kind, minutes: SET_UP_MINUTES[kind], after: before!.code });
      before = { family: charge.family, code: charge.code };
    }
  }
  return found;
}
