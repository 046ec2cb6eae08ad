import type { PlanProject } from '../project.ts';

/**
 * The best worth of a project by trying every start of every activity and every resource it may have, one unit of time after
 * the other: slow, plain, and sharing nothing with the solver. Set-up and holds are checked once everything is placed.
 *
 * @returns null where nothing that ends by `horizon` keeps all rules
 */
export function exhaustive(project: PlanProject, horizon: number): { lateness: number; end: number } | null {
  const { activities, resources = [], waits = [], holds = [], orders = [] } = project;
  const n = activities.length;
  const index = new Map(activities.map((a, i) => [a.id, i]));
  const start = new Array<number>(n).fill(-1);
  const used = resources.map((r) => ({ ...r, at: new Array<number>(horizon + 1).fill(0) }));
  const resource = new Map(used.map((r) => [r.id, r]));
  const given: (string | undefined)[][] = activities.map(() => []);
  let best: { lateness: number; end: number } | null = null;
  const end = (i: number) => start[i]! + activities[i]!.duration;
  const hasBegun = (i: number) => activities[i]!.fixedAt !== undefined;
  const isOpen = (id: string, from: number, to: number) => {
    const { open } = resource.get(id)!;
    return !open || open.some(([a, b]) => a <= from && to <= b);
  };
  const keepsWaits = (i: number) =>
    waits.every(({ from, to, least = 0, most = Infinity }) => {
      const [a, b] = [index.get(from)!, index.get(to)!];
      if ((a !== i && b !== i) || start[a]! < 0 || start[b]! < 0 || (hasBegun(a) && hasBegun(b))) return true;
      const wait = start[b]! - end(a);
      return wait >= least && wait <= most;
    });
  const keepsHolds = () =>
    holds.every((h, k) =>
      holds.slice(0, k).every((g) => {
        const [a, b] = [start[index.get(h.from)!]!, end(index.get(h.to)!)];
        const [c, d] = [start[index.get(g.from)!]!, end(index.get(g.to)!)];
        return b <= c || d <= a || (hasBegun(index.get(h.from)!) && hasBegun(index.get(g.from)!));
      }),
    );
  const keepsSetUp = () =>
    resources.every((r) => {
      if (!r.setUp) return true;
      const line = activities
        .flatMap((a, i) =>
          (a.uses ?? []).flatMap((u, k) =>
            given[i]![k] === r.id && a.duration > 0
              ? [{ from: start[i]!, to: end(i), family: u.family!, begun: hasBegun(i) }]
              : [],
          ),
        )
        .sort((x, y) => x.from - y.from);
      return line.every((p, k) => {
        const before = line[k - 1] ?? { to: 0, family: r.ranLast };
        const minutes = before.family ? (r.setUp![before.family]?.[p.family] ?? 0) : 0;
        if (p.begun || minutes === 0) return p.begun || p.from >= before.to;
        // Some start of the set-up, one after the other.
        for (let t = before.to; t + minutes <= p.from; t += 1)
          if (!r.setUpOpen || r.setUpOpen.some(([a, b]) => a <= t && t + minutes <= b)) return true;
        return false;
      });
    });
  const finish = () => {
    if (!keepsHolds() || !keepsSetUp()) return;
    const last = Math.max(...activities.map((_, i) => end(i)));
    const lateness = orders.reduce(
      (sum, o) =>
        sum + o.weight * Math.max(0, Math.max(...o.activities.map((id) => end(index.get(id)!))) - o.due),
      0,
    );
    if (!best || lateness < best.lateness || (lateness === best.lateness && last < best.end))
      best = { lateness, end: last };
  };
  const place = (i: number): void => {
    if (i === n) return finish();
    const a = activities[i]!;
    // What only the end counts for cannot be better than what there is.
    const latest = best && orders.length === 0 ? best.end - 1 : horizon;
    for (let t = a.fixedAt ?? a.notBefore ?? 0; t + a.duration <= latest; t += 1) {
      if (a.fixedAt !== undefined && t > a.fixedAt) break;
      start[i] = t;
      if (keepsWaits(i)) give(i, 0);
      start[i] = -1;
    }
  };
  const give = (i: number, k: number): void => {
    const a = activities[i]!;
    const use = a.duration > 0 ? a.uses?.[k] : undefined;
    if (!use) return place(i + 1);
    const amount = use.amount ?? 1;
    for (const id of use.oneOf) {
      const r = resource.get(id)!;
      if (!hasBegun(i) && !isOpen(id, start[i]!, end(i))) continue;
      let fits = true;
      for (let t = start[i]!; t < end(i); t += 1) fits &&= r.at[t]! + amount <= r.capacity;
      if (!fits) continue;
      for (let t = start[i]!; t < end(i); t += 1) r.at[t]! += amount;
      given[i]![k] = id;
      give(i, k + 1);
      for (let t = start[i]!; t < end(i); t += 1) r.at[t]! -= amount;
    }
  };
  place(0);
  return best;
}
