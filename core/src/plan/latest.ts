import { NEVER, setUpOf, type Claim, type Compiled, type CompiledResource } from './compiled.ts';
import type { Plan } from './project.ts';

/** Latest start at or before `t` for something of this length within one window; −NEVER where none is left. */
function latestWithin(windows: Float64Array, t: number, length: number): number {
  for (let w = windows.length / 2 - 1; w >= 0; w -= 1) {
    const start = Math.min(t, windows[2 * w + 1]! - length);
    if (start >= windows[2 * w]!) return start;
  }
  return -NEVER;
}

/** Latest end of what runs before something that wants so much set-up and begins at `start`. */
function beforeSetUp({ setUpWindows }: CompiledResource, start: number, minutes: number): number {
  const last = start - minutes;
  return minutes === 0 || !setUpWindows ? last : latestWithin(setUpWindows, last, minutes);
}

/**
 * Latest start of each activity by which no order is later than it is in the plan or, where it is in time, than it may be: backwards over
 * waits, hours, set-up and the order in which the plan lets things follow each other on each resource. NEVER where no order hangs on it.
 */
export function latestStarts(c: Compiled, plan: Plan): Float64Array {
  const ids = c.project.activities.map((a) => a.id);
  const start = Float64Array.from(ids, (id) => plan.starts[id]!);
  const latest = new Float64Array(c.n).fill(NEVER);
  for (const { activities, due } of c.orders) {
    const done = Math.max(...activities.map((i) => start[i]! + c.duration[i]!));
    for (const i of activities) latest[i] = Math.min(latest[i]!, Math.max(due, done) - c.duration[i]!);
  }
  const index = new Map(c.resources.map((r, k) => [r.id, k]));
  // What follows on the same resource of capacity 1.
  const next: { other: number; resource: CompiledResource; minutes: number }[][] = ids.map(() => []);
  const lines = c.resources.map((): Claim[] => []);
  const seen = new Map<string, number>();
  c.claims.forEach((claim) => {
    const { owner } = claim;
    const k = seen.get(owner) ?? 0;
    seen.set(owner, k + 1);
    const r = index.get(plan.given[owner]?.[k] ?? '');
    if (r !== undefined && c.resources[r]!.capacity === 1) lines[r]!.push(claim);
  });
  for (const [r, line] of lines.entries()) {
    line.sort((a, b) => start[a.first]! - start[b.first]!);
    line.forEach((a, k) => {
      const b = line[k + 1];
      if (b)
        next[a.last]!.push({
          other: b.first,
          resource: c.resources[r]!,
          minutes: setUpOf(c, r, a.family, b.family),
        });
    });
  }
  const given = (i: number) =>
    c.own[i]!.map((_, k) => c.resources[index.get(plan.given[ids[i]!]![k]!)!]!.windows).filter(
      (w) => w !== null,
    );
  const order = ids.map((_, i) => i).sort((a, b) => start[b]! - start[a]!);
  for (let rounds = 0; rounds < 4; rounds += 1) {
    let isChanged = false;
    for (const i of order) {
      let t = latest[i]!;
      for (const { other, lag } of c.out[i]!)
        if (latest[other]! < NEVER) t = Math.min(t, latest[other]! - lag);
      for (const { other, resource, minutes } of next[i]!)
        if (latest[other]! < NEVER)
          t = Math.min(t, beforeSetUp(resource, latest[other]!, minutes) - c.duration[i]!);
      if (t >= NEVER) continue;
      for (const windows of given(i)) t = latestWithin(windows, t, c.duration[i]!);
      t = Math.max(t, start[i]!);
      if (t < latest[i]!) {
        latest[i] = t;
        isChanged = true;
      }
    }
    if (!isChanged) break;
  }
  return latest;
}
