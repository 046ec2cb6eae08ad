import type { Random } from '../numerics/index.ts';
import type { Compiled } from './compiled.ts';

/**
 * Whether only the order on machines is open: one machine each, nothing side by side, no hours, holds, set-up, greatest waits or
 * promises. Job shops are of this kind.
 */
export function isDisjunctive(c: Compiled): boolean {
  return (
    c.orders.length === 0 &&
    c.resources.every((r) => r.capacity === 1 && r.windows === null && r.setUp === null) &&
    c.claims.every((k) => k.first === k.last && k.options.length === 1) &&
    c.own.every((list) => list.length <= 1) &&
    c.fixedAt.every((t) => t < 0) &&
    c.out.every((arcs) => arcs.every((a) => a.lag >= 0))
  );
}

/** Turns without a better plan after which the search goes back to the best and is shaken. */
const PATIENCE = 4000;

/**
 * Orders on machines by tabu search over neighbours at the ends of critical blocks (Nowicki and Smutnicki, 1996), judged by Taillard’s
 * estimate, shaken from the best where it stands still. Yields every better set of starts, and null now and then.
 */
export function* tabuSearch(
  c: Compiled,
  starts: Float64Array,
  random: Random,
): Generator<Float64Array | null, void> {
  const { n, duration } = c;
  const machine = Int32Array.from({ length: n }, (_, i) => {
    const k = c.own[i]![0];
    return k === undefined ? -1 : c.claims[k]!.options[0]!;
  });
  const sequences = (from: Float64Array): number[][] => {
    const on: number[][] = c.resources.map(() => []);
    for (let i = 0; i < n; i += 1) if (machine[i]! >= 0) on[machine[i]!]!.push(i);
    for (const line of on) line.sort((a, b) => from[a]! - from[b]! || a - b);
    return on;
  };
  const before = new Int32Array(n);
  const after = new Int32Array(n);
  const head = new Float64Array(n);
  const tail = new Float64Array(n);
  const order = new Int32Array(n);
  const open = new Int32Array(n);
  const tabu = new Int32Array(n * n);

  const load = (on: readonly number[][]) => {
    before.fill(-1);
    after.fill(-1);
    for (const line of on)
      for (let k = 1; k < line.length; k += 1) {
        before[line[k]!] = line[k - 1]!;
        after[line[k - 1]!] = line[k]!;
      }
  };
  /** Heads and tails by a topological walk; the end, or −1 where the orders run in a circle. */
  const reckon = (): number => {
    for (let i = 0; i < n; i += 1) open[i] = c.into[i]!.length + (before[i]! >= 0 ? 1 : 0);
    let last = 0;
    for (let i = 0; i < n; i += 1) if (open[i] === 0) order[last++] = i;
    for (let k = 0; k < last; k += 1) {
      const i = order[k]!;
      let t = c.notBefore[i]!;
      for (const { other, lag } of c.into[i]!) if (head[other]! + lag > t) t = head[other]! + lag;
      const m = before[i]!;
      if (m >= 0 && head[m]! + duration[m]! > t) t = head[m]! + duration[m]!;
      head[i] = t;
      for (const { other } of c.out[i]!) if ((open[other] = open[other]! - 1) === 0) order[last++] = other;
      const s = after[i]!;
      if (s >= 0 && (open[s] = open[s]! - 1) === 0) order[last++] = s;
    }
    if (last < n) return -1;
    let end = 0;
    for (let k = n - 1; k >= 0; k -= 1) {
      const i = order[k]!;
      let q = duration[i]!;
      for (const { other, lag } of c.out[i]!) if (tail[other]! + lag > q) q = tail[other]! + lag;
      const s = after[i]!;
      if (s >= 0 && tail[s]! + duration[i]! > q) q = tail[s]! + duration[i]!;
      tail[i] = q;
      if (head[i]! + q > end) end = head[i]! + q;
    }
    return end;
  };
  /** Neighbours on machines at the ends of the blocks of one critical way. */
  const moves = (end: number): [number, number][] => {
    const path: number[] = [];
    let i = -1;
    for (let k = 0; k < n; k += 1) {
      const j = order[k]!;
      if (head[j] === c.notBefore[j] && head[j]! + tail[j]! === end) {
        i = j;
        break;
      }
    }
    while (i >= 0) {
      path.push(i);
      const rest = tail[i]!;
      let next = -1;
      const s = after[i]!;
      if (s >= 0 && tail[s]! + duration[i]! === rest) next = s;
      const arcs = c.out[i]!;
      const offset = arcs.length > 1 ? Math.floor(random() * arcs.length) : 0;
      if (next < 0 || random() < 0.5)
        for (let a = 0; a < arcs.length; a += 1) {
          const { other, lag } = arcs[(a + offset) % arcs.length]!;
          if (tail[other]! + lag === rest && rest > duration[i]!) {
            next = other;
            break;
          }
        }
      i = rest === duration[i]! ? -1 : next;
    }
    const found: [number, number][] = [];
    for (let a = 0; a < path.length;) {
      let b = a;
      while (b + 1 < path.length && after[path[b]!] === path[b + 1]) b += 1;
      if (b > a) {
        if (a > 0) found.push([path[a]!, path[a + 1]!]);
        if (b < path.length - 1 && (b - a > 1 || a === 0)) found.push([path[b - 1]!, path[b]!]);
        // The only block there is may be broken at either end.
        if (a === 0 && b === path.length - 1) found.push([path[a]!, path[a + 1]!], [path[b - 1]!, path[b]!]);
      }
      a = b + 1;
    }
    return found;
  };
  /** Taillard’s estimate of the end after two neighbours change places. */
  const estimate = (u: number, v: number): number => {
    const [p, s] = [before[u]!, after[v]!];
    let hv = Math.max(c.notBefore[v]!, p >= 0 ? head[p]! + duration[p]! : 0);
    for (const { other, lag } of c.into[v]!) if (head[other]! + lag > hv) hv = head[other]! + lag;
    let hu = Math.max(c.notBefore[u]!, hv + duration[v]!);
    for (const { other, lag } of c.into[u]!) if (head[other]! + lag > hu) hu = head[other]! + lag;
    let qu = duration[u]! + (s >= 0 ? tail[s]! : 0);
    for (const { other, lag } of c.out[u]!) if (tail[other]! + lag > qu) qu = tail[other]! + lag;
    let qv = duration[v]! + qu;
    for (const { other, lag } of c.out[v]!) if (tail[other]! + lag > qv) qv = tail[other]! + lag;
    return Math.max(hv + qv, hu + qu);
  };
  const swap = (u: number, v: number) => {
    const [p, s] = [before[u]!, after[v]!];
    if (p >= 0) after[p] = v;
    if (s >= 0) before[s] = u;
    before[v] = p;
    after[v] = u;
    before[u] = v;
    after[u] = s;
  };

  load(sequences(starts));
  let end = reckon();
  if (end < 0) return;
  let best = Infinity;
  let bestStarts = Float64Array.from(starts);
  let quiet = 0;
  for (let turn = 1; ; turn += 1) {
    if (end >= 0 && end < best) {
      best = end;
      bestStarts = Float64Array.from(head);
      quiet = 0;
      yield bestStarts;
    } else quiet += 1;
    if (turn % 256 === 0) yield null;
    if (quiet > PATIENCE) {
      quiet = 0;
      load(sequences(bestStarts));
      end = reckon();
      tabu.fill(0);
      const shakes = 4 + Math.floor(random() * 12);
      for (let k = 0; k < shakes; k += 1) {
        const open = moves(end);
        if (open.length === 0) break;
        const [u, v] = open[Math.floor(random() * open.length)]!;
        swap(u, v);
        end = reckon();
      }
      continue;
    }
    const open = moves(end);
    if (open.length === 0) return;
    let chosen: [number, number] | null = null;
    let least = Infinity;
    for (const [u, v] of open) {
      const guess = estimate(u, v);
      const isTabu = tabu[u * n + v]! > turn;
      if (isTabu && guess >= best) continue;
      if (guess < least || (guess === least && random() < 0.5)) {
        least = guess;
        chosen = [u, v];
      }
    }
    chosen ??= open[Math.floor(random() * open.length)]!;
    const [u, v] = chosen;
    swap(u, v);
    // Not back again for a while.
    tabu[v * n + u] = turn + 8 + Math.floor(random() * 8);
    end = reckon();
    if (end < 0) {
      swap(v, u);
      end = reckon();
    }
  }
}
