import type { Plan, PlanProject, PlanResource, PlanUse } from './project.ts';

/** A rule a plan breaks. */
export interface Broken {
  rule: 'missing' | 'not whole' | 'fixed' | 'not before' | 'wait' | 'given' | 'hours' | 'capacity' | 'set-up';
  /** Ids of activities, holds or resources it is about. */
  ids: string[];
}

/**
 * Checks a plan against every rule of its project, by the rules alone: nothing here is shared with what makes plans. What has begun
 * (`fixedAt`) may break rules among itself, since it has happened.
 *
 * @returns what is broken; empty for a plan that keeps everything
 */
export function verifyPlan(project: PlanProject, plan: Plan): Broken[] {
  const broken: Broken[] = [];
  const { activities, resources = [], waits = [], holds = [] } = project;
  const byId = new Map(activities.map((a) => [a.id, a]));
  const hasBegun = (id: string) => byId.get(id)!.fixedAt !== undefined;
  for (const a of activities) {
    const start = plan.starts[a.id];
    if (start === undefined || Number.isNaN(start)) broken.push({ rule: 'missing', ids: [a.id] });
    else if (!Number.isInteger(start)) broken.push({ rule: 'not whole', ids: [a.id] });
    else if (a.fixedAt !== undefined) {
      if (start !== a.fixedAt) broken.push({ rule: 'fixed', ids: [a.id] });
    } else if (start < Math.max(0, a.notBefore ?? 0)) broken.push({ rule: 'not before', ids: [a.id] });
  }
  if (broken.some((b) => b.rule === 'missing')) return broken;
  const startOf = (id: string) => plan.starts[id]!;
  const endOf = (id: string) => startOf(id) + byId.get(id)!.duration;

  for (const { from, to, least = 0, most = Infinity } of waits) {
    if (hasBegun(from) && hasBegun(to)) continue;
    const wait = startOf(to) - endOf(from);
    if (wait < least || wait > most) broken.push({ rule: 'wait', ids: [from, to] });
  }

  interface Piece {
    id: string;
    from: number;
    to: number;
    amount: number;
    family: string | undefined;
    begun: boolean;
  }
  const pieces = new Map<string, Piece[]>(resources.map((r) => [r.id, []]));
  const give = (
    id: string,
    use: PlanUse,
    resource: string | undefined,
    from: number,
    to: number,
    begun: boolean,
  ) => {
    if (resource === undefined || !use.oneOf.includes(resource)) {
      broken.push({ rule: 'given', ids: [id] });
      return;
    }
    pieces.get(resource)!.push({ id, from, to, amount: use.amount ?? 1, family: use.family, begun });
  };
  const isOpen = (resource: string, from: number, to: number) => {
    const { open } = resources.find((r) => r.id === resource)!;
    if (!open) return true;
    // Windows that touch are one.
    let reach = from;
    for (const [a, b] of open) if (a <= reach && b > reach) reach = b;
    return reach >= to && (to > from || open.some(([a, b]) => a <= from && from <= b));
  };
  for (const a of activities) {
    if (a.duration === 0) continue;
    (a.uses ?? [])
      .filter((use) => use.amount !== 0)
      .forEach((use, k) => {
        const resource = plan.given[a.id]?.[k];
        give(a.id, use, resource, startOf(a.id), endOf(a.id), a.fixedAt !== undefined);
        if (
          resource !== undefined &&
          a.fixedAt === undefined &&
          !isOpen(resource, startOf(a.id), endOf(a.id))
        )
          broken.push({ rule: 'hours', ids: [a.id, resource] });
      });
  }
  for (const hold of holds)
    give(hold.id, hold, plan.given[hold.id]?.[0], startOf(hold.from), endOf(hold.to), hasBegun(hold.from));
  for (const a of activities)
    for (const id of a.on ?? []) {
      const resource = plan.given[id]?.[0];
      if (resource !== undefined && a.fixedAt === undefined && !isOpen(resource, startOf(a.id), endOf(a.id)))
        broken.push({ rule: 'hours', ids: [a.id, resource] });
    }

  const canBeSetUp = ({ setUpOpen }: PlanResource, from: number, to: number, minutes: number) =>
    !setUpOpen || setUpOpen.some(([a, b]) => Math.min(b, to) - Math.max(a, from) >= minutes);

  for (const r of resources) {
    const on = pieces.get(r.id)!.filter((p) => p.to > p.from);
    for (const p of on) {
      const running = on.filter((q) => q.from <= p.from && q.to > p.from);
      const sum = running.reduce((s, q) => s + q.amount, 0);
      if (sum > r.capacity + 1e-9 && running.some((q) => !q.begun))
        broken.push({ rule: 'capacity', ids: [r.id, ...running.map((q) => q.id)] });
    }
    if (!r.setUp) continue;
    const line = [...on].sort((a, b) => a.from - b.from);
    line.forEach((p, k) => {
      if (p.begun) return;
      const before = line[k - 1];
      const family = before ? before.family : r.ranLast;
      const needed = family === undefined || p.family === undefined ? 0 : (r.setUp![family]?.[p.family] ?? 0);
      const from = before ? before.to : 0;
      if (p.from - from < needed || (needed > 0 && !canBeSetUp(r, from, p.from, needed)))
        broken.push({ rule: 'set-up', ids: [r.id, ...(before ? [before.id] : []), p.id] });
    });
  }
  return broken;
}
