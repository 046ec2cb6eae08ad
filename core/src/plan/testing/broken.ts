import { verifyPlan, workshopProject, type Broken, type PlanRoom, type WorkshopPlan } from '../index.ts';

/** Rules of its room’s project that a plan breaks, by the verifier, from nothing but its steps. */
export function broken(room: PlanRoom, p: WorkshopPlan): Broken[] {
  const { project, zero } = workshopProject(room);
  const starts = Object.fromEntries([
    ...p.steps.map((s) => [s.key, (Date.parse(s.start) - zero) / 60_000] as const),
    ...project.activities.slice(p.steps.length).map((a) => [a.id, a.fixedAt!] as const),
  ]);
  const by = new Map(p.steps.map((s) => [s.key, s]));
  const given = Object.fromEntries([
    ...project.activities.map((a) => [
      a.id,
      (a.uses ?? []).map((u) =>
        u.oneOf.find((r) => r === by.get(a.id)?.personId || r === by.get(a.id)?.machineId)!,
      ),
    ]),
    ...(project.holds ?? []).map((h) => [
      h.id,
      [h.oneOf.find((r) => r === by.get(h.from)?.machineId) ?? h.oneOf[0]!],
    ]),
  ]);
  return verifyPlan(project, { starts, given });
}
