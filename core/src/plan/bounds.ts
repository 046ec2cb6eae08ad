import { leastStarts, NEVER, withinHours, type Compiled } from './compiled.ts';
import type { PlanWorth } from './project.ts';
import { tails } from './tails.ts';

/** What no plan can be better than. */
export type PlanBound = Pick<PlanWorth, 'lateness' | 'end'>;

/** Things of which no two run at once, with heads, lengths, and tails after their end. */
interface Line {
  claims: number[];
}

/**
 * What no plan can be better than: longest ways through waits and hours, loads against what is open, and for lines of things of which
 * no two run at once the preemptive one-machine bound (Carlier, 1982) sharpened by refuting ends with edge finding (Carlier and Pinson, 1989).
 */
export function boundOf(c: Compiled, budgetMs = 500, now: () => number = Date.now): PlanBound {
  let end = 0;
  for (let i = 0; i < c.n; i += 1) end = Math.max(end, c.earliest[i]! + c.duration[i]!);
  const tail = tails(c);
  end = Math.max(end, loadBound(c, tail));
  const lines = linesOf(c);
  for (const line of lines) {
    end = Math.max(end, preemptiveEnd(c, line, tail));
    end = Math.max(end, chainEnd(c, line.claims, line.claims.length, tail));
  }
  const pools = poolsOf(c);
  for (const { claims, machines } of pools)
    end = Math.max(end, chainEnd(c, claims, Math.ceil(claims.length / machines), tail));
  if (lines.length > 0) end = refuted(c, lines, tail, end, budgetMs, now);
  return { lateness: latenessBound(c, lines, pools), end };
}

/** First end of an activity that begins at or after `t`, in hours of anything it may use. */
function inOwnHours(c: Compiled, i: number, t: number, length: number): number {
  let from = t;
  for (const k of c.own[i]!) {
    let best = NEVER;
    for (const r of c.claims[k]!.options) {
      const { windows } = c.resources[r]!;
      best = Math.min(best, windows ? withinHours(windows, from, length) : from);
    }
    from = best;
  }
  return from + length;
}

/** Things that run on any of some machines of capacity 1: on one of them at least their share follows each other. */
function poolsOf(c: Compiled): { claims: number[]; machines: number }[] {
  const pools = new Map<string, { claims: number[]; machines: number }>();
  c.claims.forEach(({ options, first, last }, k) => {
    // Work that keeps to hours has its load against them already.
    if (options.length < 2 || first === last || hasBegun(c, first, last)) return;
    if (options.some((r) => c.resources[r]!.capacity !== 1)) return;
    const key = [...options].sort((a, b) => a - b).join();
    const pool = pools.get(key) ?? { claims: [], machines: options.length };
    pool.claims.push(k);
    pools.set(key, pool);
  });
  return [...pools.values()];
}

/**
 * Things of which no two run at once, each in and out in somebody’s hours and by itself between: so many of the shortest, one after
 * the other as early as hours let them, end no later than any order of the real ones.
 */
function chainEnd(c: Compiled, claims: readonly number[], runs: number, tail: Float64Array | null): number {
  const least = (of: (k: number) => number) => Math.min(...claims.map(of));
  const first = (k: number) => c.claims[k]!.first;
  const last = (k: number) => c.claims[k]!.last;
  const into = least((k) => c.duration[first(k)]!);
  const alone = least((k) =>
    first(k) === last(k) ? 0 : c.length[k]! - c.duration[first(k)]! - c.duration[last(k)]!,
  );
  const out = least((k) => (first(k) === last(k) ? 0 : c.duration[last(k)]!));
  let t = least((k) => c.earliest[first(k)]!);
  for (let n = 0; n < runs; n += 1) {
    let begun = NEVER;
    let over = NEVER;
    for (const k of claims) begun = Math.min(begun, inOwnHours(c, first(k), t, into));
    if (out === 0) over = begun + alone;
    else for (const k of claims) over = Math.min(over, inOwnHours(c, last(k), begun + alone, out));
    t = over;
  }
  return tail ? t + least((k) => tail[last(k)]! - c.duration[last(k)]!) : t;
}

/** Orders late by their longest ways alone, or by the load of a line before the last of those that are due first. */
function latenessBound(
  c: Compiled,
  lines: readonly Line[],
  pools: readonly { claims: number[]; machines: number }[],
): number {
  let own = 0;
  const needs = c.orders.map((o) => {
    const least = Math.max(...o.activities.map((i) => c.earliest[i]! + c.duration[i]!));
    own += o.weight * Math.max(0, least - o.due);
    return ancestors(c, o.activities);
  });
  let best = own;
  const byDue = c.orders.map((_, k) => k).sort((a, b) => c.orders[a]!.due - c.orders[b]!.due);
  for (const { claims } of lines) {
    const set = new Set<number>();
    let weight = Infinity;
    for (const k of byDue) {
      for (const claim of claims) if (needs[k]!.has(c.claims[claim]!.last)) set.add(claim);
      weight = Math.min(weight, c.orders[k]!.weight);
      if (set.size === 0) continue;
      const last = preemptive(
        [...set].map((claim) => ({
          head: c.earliest[c.claims[claim]!.first]!,
          length: c.length[claim]!,
          tail: 0,
        })),
      );
      best = Math.max(best, weight * Math.max(0, last - c.orders[k]!.due));
    }
  }
  for (const { claims, machines } of pools) {
    const set = new Set<number>();
    let weight = Infinity;
    for (const k of byDue) {
      for (const claim of claims) if (needs[k]!.has(c.claims[claim]!.last)) set.add(claim);
      weight = Math.min(weight, c.orders[k]!.weight);
      if (set.size === 0) continue;
      const last = chainEnd(c, [...set], Math.ceil(set.size / machines), null);
      best = Math.max(best, weight * Math.max(0, last - c.orders[k]!.due));
    }
  }
  return best;
}

/** Everything that must be over before these are, by least waits, and these. */
function ancestors(c: Compiled, of: readonly number[]): Set<number> {
  const found = new Set(of);
  const queue = [...of];
  for (let head = 0; head < queue.length; head += 1)
    for (const { other, lag } of c.into[queue[head]!]!)
      if (lag >= c.duration[other]! && !found.has(other)) {
        found.add(other);
        queue.push(other);
      }
  return found;
}

/** Work of each set of alternatives against its open hours, before the shortest tail. */
function loadBound(c: Compiled, tail: Float64Array): number {
  const pools = new Map<string, number[]>();
  c.claims.forEach(({ options }) => pools.set([...options].sort((a, b) => a - b).join(), [...options]));
  let best = 0;
  for (const pool of pools.values()) {
    const inside = new Set(pool);
    let work = 0;
    let head = Infinity;
    let after = Infinity;
    c.claims.forEach(({ options, amount, first, last }, k) => {
      if (!options.every((r) => inside.has(r)) || hasBegun(c, first, last)) return;
      work += amount * c.length[k]!;
      head = Math.min(head, c.earliest[first]!);
      after = Math.min(after, tail[last]! - c.duration[last]!);
    });
    // Everything of it may have begun.
    if (work === 0) continue;
    // Holds do not keep to hours, so hours count only where every claim does.
    const isTimed = c.claims.every(({ options, timed }) => timed || !options.every((r) => inside.has(r)));
    best = Math.max(best, openAfter(c, pool, head, work, isTimed) + after);
  }
  return best;
}

/** When so much work can be over that begins at `from` on resources side by side. */
function openAfter(
  c: Compiled,
  pool: readonly number[],
  from: number,
  work: number,
  isTimed: boolean,
): number {
  const steps: [number, number][] = [];
  for (const r of pool) {
    const { windows, capacity } = c.resources[r]!;
    if (!windows || !isTimed) {
      steps.push([from, capacity]);
      continue;
    }
    for (let w = 0; w < windows.length; w += 2) {
      if (windows[w + 1]! <= from) continue;
      steps.push([Math.max(from, windows[w]!), capacity], [windows[w + 1]!, -capacity]);
    }
  }
  steps.sort((a, b) => a[0] - b[0]);
  let left = work;
  let rate = 0;
  let at = from;
  for (const [t, change] of steps) {
    if (rate > 0 && left <= rate * (t - at)) return Math.ceil(at + left / rate);
    left -= rate * (t - at);
    at = t;
    rate += change;
  }
  return rate > 0 ? Math.ceil(at + left / rate) : at;
}

/** Claims of which no two can run at once: of a resource of capacity 1, or so large that two exceed it. */
export function linesOf(c: Compiled): Line[] {
  const lines: Line[] = [];
  c.resources.forEach(({ capacity }, r) => {
    const single = c.claims.flatMap(({ options, first, last }, k) =>
      options.length === 1 && options[0] === r && !hasBegun(c, first, last) ? [k] : [],
    );
    const line = single.filter((k) => capacity === 1 || c.claims[k]!.amount * 2 > capacity);
    if (line.length > 1) lines.push({ claims: line });
    if (capacity > 1) {
      // One more that fits beside none of them: the largest of the rest.
      const least = Math.min(...line.map((k) => c.claims[k]!.amount));
      const more = single.filter((k) => !line.includes(k) && c.claims[k]!.amount + least > capacity);
      if (more.length > 0 && line.length > 0) lines.push({ claims: [...line, more[0]!] });
    }
  });
  return lines;
}

/** What has begun may break rules, so nothing follows from it. */
const hasBegun = (c: Compiled, first: number, last: number) =>
  c.fixedAt[first]! > -NEVER || c.fixedAt[last]! > -NEVER;

function preemptiveEnd(c: Compiled, { claims }: Line, tail: Float64Array): number {
  return preemptive(
    claims.map((k) => {
      const { first, last } = c.claims[k]!;
      return {
        head: c.earliest[first]!,
        length: c.length[k]!,
        tail: tail[last]! - c.duration[last]!,
      };
    }),
  );
}

/** Jackson’s preemptive schedule: the least end of one machine if things could be broken off, the longest tail first. */
export function preemptive(jobs: readonly { head: number; length: number; tail: number }[]): number {
  const byHead = [...jobs].sort((a, b) => a.head - b.head).map((j) => ({ ...j, left: j.length }));
  const ready: typeof byHead = [];
  let t = 0;
  let end = 0;
  let next = 0;
  while (next < byHead.length || ready.length > 0) {
    if (ready.length === 0) t = Math.max(t, byHead[next]!.head);
    while (next < byHead.length && byHead[next]!.head <= t) ready.push(byHead[next++]!);
    ready.sort((a, b) => a.tail - b.tail);
    const job = ready.at(-1)!;
    const until = next < byHead.length ? byHead[next]!.head : Infinity;
    const run = Math.min(job.left, until - t);
    t += run;
    job.left -= run;
    if (job.left === 0) {
      end = Math.max(end, t + job.tail);
      ready.pop();
    }
  }
  return end;
}

/** The greatest end that can be refuted, and one more: heads and tails are sharpened by edge finding until something has no room. */
function refuted(
  c: Compiled,
  lines: readonly Line[],
  tail: Float64Array,
  from: number,
  budgetMs: number,
  now: () => number,
): number {
  const begun = now();
  let low = from;
  let step = 1;
  // Up in growing steps while refuted, then halving.
  while (now() - begun < budgetMs && isRefuted(c, lines, tail, low + step - 1)) {
    low += step;
    step *= 2;
  }
  while (step > 1 && now() - begun < budgetMs) {
    step = Math.ceil(step / 2);
    if (isRefuted(c, lines, tail, low + step - 1)) low += step;
    if (step === 1) break;
  }
  return low;
}

/** Whether no plan ends by `end`, as far as edge finding can tell. */
export function isRefuted(
  c: Compiled,
  lines: readonly Line[],
  tail: Float64Array,
  end: number,
  extra?: readonly { other: number; lag: number }[][],
): boolean {
  const least = leastStarts(c, { extra, limit: end });
  if (typeof least === 'number') return true;
  const head = Float64Array.from(least);
  const due = Float64Array.from(tail, (q, i) => end - q + c.duration[i]!);
  if (extra) lowerDue(c, due, extra);
  for (let rounds = 0; rounds < 12; rounds += 1) {
    let isChanged = false;
    for (const { claims } of lines) {
      const jobs = claims.map((k) => {
        const { first, last } = c.claims[k]!;
        return { first, last, head: head[first]!, length: c.length[k]!, due: due[last]! };
      });
      if (jobs.some((j) => j.head + j.length > j.due)) return true;
      const later = edgeFind(jobs);
      if (!later) return true;
      const mirrored = edgeFind(jobs.map((j) => ({ ...j, head: -j.due, due: -j.head })));
      if (!mirrored) return true;
      jobs.forEach((j, k) => {
        if (later[k]! > head[j.first]!) {
          head[j.first] = later[k]!;
          isChanged = true;
        }
        if (-mirrored[k]! < due[j.last]!) {
          due[j.last] = -mirrored[k]!;
          isChanged = true;
        }
      });
    }
    if (!isChanged) return false;
    if (!raiseHeads(c, head, extra)) return true;
    lowerDue(c, due, extra);
    for (let i = 0; i < c.n; i += 1) if (head[i]! + c.duration[i]! > due[i]!) return true;
  }
  return false;
}

function raiseHeads(
  c: Compiled,
  head: Float64Array,
  extra?: readonly { other: number; lag: number }[][],
): boolean {
  for (let rounds = 0; rounds <= c.n; rounds += 1) {
    let isChanged = false;
    for (let i = 0; i < c.n; i += 1)
      for (const arcs of [c.out[i]!, extra?.[i] ?? []])
        for (const { other, lag } of arcs)
          if (head[i]! + lag > head[other]!) {
            head[other] = head[i]! + lag;
            isChanged = true;
          }
    if (!isChanged) return true;
  }
  return false;
}

function lowerDue(c: Compiled, due: Float64Array, extra?: readonly { other: number; lag: number }[][]): void {
  for (let rounds = 0; rounds <= c.n; rounds += 1) {
    let isChanged = false;
    for (let i = c.n - 1; i >= 0; i -= 1)
      for (const arcs of [c.out[i]!, extra?.[i] ?? []])
        for (const { other, lag } of arcs) {
          const latest = due[other]! - c.duration[other]! - lag + c.duration[i]!;
          if (latest < due[i]!) {
            due[i] = latest;
            isChanged = true;
          }
        }
    if (!isChanged) return;
  }
}

/**
 * Edge finding on one machine: heads that follow because a job must come after a set of others that else had no room.
 *
 * @returns the sharpened heads; null where a set has no room at all
 */
export function edgeFind(jobs: readonly { head: number; length: number; due: number }[]): number[] | null {
  const n = jobs.length;
  const heads = jobs.map((j) => j.head);
  const byHead = jobs.map((_, k) => k).sort((a, b) => jobs[b]!.head - jobs[a]!.head);
  for (const { due } of jobs) {
    let work = 0;
    let done = -Infinity;
    for (let a = 0; a < n; a += 1) {
      const job = jobs[byHead[a]!]!;
      if (job.due > due) continue;
      work += job.length;
      done = Math.max(done, job.head + work);
      if (done > due) return null;
      // Of those that may end later: whoever has no room in or before the set comes after it.
      for (let k = 0; k < n; k += 1) {
        const other = jobs[k]!;
        if (other.due <= due) continue;
        if (Math.min(job.head, other.head) + work + other.length > due) heads[k] = Math.max(heads[k]!, done);
      }
    }
  }
  return heads;
}
