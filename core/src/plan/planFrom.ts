import { NEVER } from './compiled.ts';
import type { Plan } from './project.ts';
import type { PlannedStep } from './room.ts';
import type { WorkshopProject } from './workshop.ts';

const MINUTE = 60_000;

/** Steps as a plan of the project, in its own minutes and with who and what they had; what is unknown lies at the end. */
export function planFrom({ project, zero }: WorkshopProject, from: readonly PlannedStep[]): Plan {
  const by = new Map(from.map((s) => [s.key, s]));
  const had = (step: string, oneOf: readonly string[]) => {
    const s = by.get(step);
    return oneOf.find((r) => r === s?.personId || r === s?.machineId) ?? '';
  };
  return {
    starts: Object.fromEntries(
      project.activities.map(({ id }) => [
        id,
        by.has(id) ? Math.round((Date.parse(by.get(id)!.start) - zero) / MINUTE) : NEVER,
      ]),
    ),
    given: {
      ...Object.fromEntries(
        project.activities.map((a) => [a.id, (a.uses ?? []).map((u) => had(a.id, u.oneOf))]),
      ),
      ...Object.fromEntries((project.holds ?? []).map((h) => [h.id, [had(h.from, h.oneOf)]])),
    },
  };
}
