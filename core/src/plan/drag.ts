import type { PlannedStep, PlanRoom } from './room.ts';
import { verifyPlan, type Broken } from './verify.ts';
import { workshopProject } from './workshop.ts';

const MINUTE = 60_000;

/**
 * What would be broken if one step of a plan began at another time and nothing else moved: the rules, and the ids they are about.
 *
 * @throws RangeError for a step the plan has not
 */
export function brokenAt(room: PlanRoom, steps: readonly PlannedStep[], key: string, at: string): Broken[] {
  const { project, zero } = workshopProject(room);
  if (!steps.some((s) => s.key === key)) throw new RangeError(`the plan has no step ‘${key}’`);
  const byKey = new Map(steps.map((s) => [s.key, s]));
  const minute = (iso: string) => Math.round((Date.parse(iso) - zero) / MINUTE);
  const given: Record<string, string[]> = {};
  for (const a of project.activities) {
    const s = byKey.get(a.id);
    given[a.id] = (a.uses ?? []).map(
      (u) => u.oneOf.find((r) => r === s?.personId || r === s?.machineId) ?? u.oneOf[0]!,
    );
  }
  for (const h of project.holds ?? []) {
    const machine = h.oneOf.find((r) =>
      steps.some((s) => s.batch === byKey.get(h.from)?.batch && s.machineId === r),
    );
    given[h.id] = [machine ?? h.oneOf[0]!];
  }
  const starts = Object.fromEntries(
    project.activities.map((a) => [
      a.id,
      a.id === key ? minute(at) : (a.fixedAt ?? minute(byKey.get(a.id)?.start ?? at)),
    ]),
  );
  return verifyPlan(project, { starts, given }).filter((b) => b.ids.includes(key));
}
