import { Board } from './board.ts';
import { NEVER, type Compiled } from './compiled.ts';
import type { Groups } from './groups.ts';
import { tails } from './tails.ts';

/** Latest start of each activity by which no order is late, hours and resources not counted; NEVER for what belongs to none. */
export function latestByDue(c: Compiled): Float64Array {
  const latest = new Float64Array(c.n).fill(NEVER);
  for (const { activities, due } of c.orders)
    for (const i of activities) latest[i] = Math.min(latest[i]!, due - c.duration[i]!);
  for (let rounds = 0; rounds < c.n; rounds += 1) {
    let isChanged = false;
    for (let j = c.n - 1; j >= 0; j -= 1)
      for (const { other, lag } of c.into[j]!)
        if (latest[j]! - lag < latest[other]!) {
          latest[other] = latest[j]! - lag;
          isChanged = true;
        }
    if (!isChanged) break;
  }
  return latest;
}

/** Rules that say which group is placed next: the one with the least value. */
export const PRIORITY_RULES = ['latest start', 'longest tail', 'earliest start', 'weighted due'] as const;
/** See {@link PRIORITY_RULES}. */
export type PriorityRule = (typeof PRIORITY_RULES)[number];

/** The groups in the order a rule gives them. */
export function orderBy(rule: PriorityRule, c: Compiled, groups: Groups): number[] {
  const tail = tails(c);
  const latest = latestByDue(c);
  const weight = new Float64Array(c.n).fill(0);
  if (rule === 'weighted due')
    for (const o of c.orders) for (const i of o.activities) weight[i] = Math.max(weight[i]!, o.weight);
  const far = Math.max(...tail);
  const of = (i: number): number => {
    switch (rule) {
      case 'latest start':
        return latest[i]! < NEVER ? latest[i]! : NEVER / 2 + far - tail[i]!;
      case 'longest tail':
        return -tail[i]!;
      case 'earliest start':
        return c.earliest[i]!;
      case 'weighted due':
        return (latest[i]! < NEVER ? latest[i]! : NEVER / 2 + far - tail[i]!) / (1 + weight[i]!);
    }
  };
  const value = groups.members.map((group) => Math.min(...group.map(of)));
  return value.map((_, g) => g).sort((a, b) => value[a]! - value[b]! || a - b);
}

/**
 * Places all groups in an order, each as soon as those before it are placed: the serial schedule scheme (Kelley, 1963). What is fixed goes
 * first, as it has begun. What lies on the board already in the same sequence stays; whoever has changed the least starts clears it before.
 *
 * @returns −1, or the group that found no place
 */
export function placeAll(board: Board, groups: Groups, order: readonly number[]): number {
  const sequence = sequenceOf(groups, order, board.begun);
  const { sequence: placed, wantedThen } = board;
  let same = 0;
  while (
    same < placed.length &&
    placed[same] === sequence[same] &&
    groups.claims[sequence[same]!]!.every((k) => board.wanted[k] === wantedThen[k])
  )
    same += 1;
  while (placed.length > same) board.takeGroup(placed.pop()!);
  board.placeFixed();
  const place = (g: number) => {
    if (!board.placeGroup(g)) return false;
    placed.push(g);
    for (const claim of groups.claims[g]!) wantedThen[claim] = board.wanted[claim]!;
    return true;
  };
  const begun = groups.begun.length;
  const failed = placeBegun(board, sequence.slice(same, begun), place);
  if (failed >= 0) return failed;
  if (same < begun) board.begun = placed.slice(0, begun);
  for (const g of sequence.slice(Math.max(same, begun))) if (!place(g)) return g;
  return -1;
}

/**
 * Places groups that have begun: first those that need nothing another holds. Where each waits for what another holds, what they hold is taken to be
 * held no longer than it must.
 *
 * @returns −1, or the group that found no place
 */
function placeBegun(board: Board, begun: readonly number[], place: (g: number) => boolean): number {
  let open = begun;
  while (open.length > 0) {
    const left = open.filter((g) => !place(g));
    if (left.length < open.length) {
      open = left;
      continue;
    }
    for (const g of left) board.holdOn(g, false);
    return left.find((g) => !place(g)) ?? -1;
  }
  return -1;
}

/** The order with everything after what it must follow: of the groups that are ready always the first. */
function sequenceOf(groups: Groups, order: readonly number[], begun: readonly number[]): number[] {
  const open = groups.before.map((b) => b.length);
  const rank = new Int32Array(order.length);
  order.forEach((g, k) => (rank[g] = k));
  const sequence: number[] = [];
  const isDone = new Uint8Array(order.length);
  // Ready groups as a heap over their rank.
  const heap: number[] = [];
  const push = (g: number) => {
    let k = heap.push(rank[g]!) - 1;
    while (k > 0) {
      const up = (k - 1) >> 1;
      if (heap[up]! <= heap[k]!) break;
      [heap[up], heap[k]] = [heap[k]!, heap[up]!];
      k = up;
    }
  };
  const pop = () => {
    const top = heap[0]!;
    const last = heap.pop()!;
    if (heap.length > 0) {
      heap[0] = last;
      for (let k = 0; ;) {
        const [l, r] = [2 * k + 1, 2 * k + 2];
        let least = k;
        if (l < heap.length && heap[l]! < heap[least]!) least = l;
        if (r < heap.length && heap[r]! < heap[least]!) least = r;
        if (least === k) break;
        [heap[least], heap[k]] = [heap[k]!, heap[least]!];
        k = least;
      }
    }
    return order[top]!;
  };
  const done = (g: number) => {
    for (const next of groups.after[g]!)
      if ((open[next] = open[next]! - 1) === 0 && !isDone[next]) push(next);
  };
  for (const g of begun) {
    isDone[g] = 1;
    sequence.push(g);
  }
  for (const g of order) if (open[g] === 0 && !isDone[g]) push(g);
  for (const g of [...sequence]) done(g);
  while (heap.length > 0) {
    const g = pop();
    if (isDone[g]) continue;
    isDone[g] = 1;
    sequence.push(g);
    done(g);
  }
  return sequence;
}

/** Groups in the order in which the first of each begins. */
export function orderByStarts(groups: Groups, starts: ArrayLike<number>): number[] {
  const first = groups.members.map((group) => Math.min(...group.map((i) => starts[i]!)));
  return first.map((_, g) => g).sort((a, b) => first[a]! - first[b]! || a - b);
}

/**
 * An order that gives the plan on a full board again: groups by their first starts where each is one activity; else, since a group that begins
 * first may end last, as they were placed.
 */
export function orderOf(board: Board, groups: Groups): number[] {
  if (groups.members.some((group) => group.length > 1)) return [...board.sequence];
  return orderByStarts(groups, board.start);
}
