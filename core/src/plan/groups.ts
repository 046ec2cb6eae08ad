import { NEVER, type Compiled } from './compiled.ts';
import { tails } from './tails.ts';

/** Activities that must be placed together, and which groups come before which. */
export interface Groups {
  /** Group of each activity. */
  of: Int32Array;
  /** Activities of each group, in the order they are placed. */
  members: readonly number[][];
  /** Claims that begin in each group. */
  claims: readonly number[][];
  before: readonly number[][];
  after: readonly number[][];
  /** Groups of which something has begun, those that are furthest on first: what they still hold is in the way of those that come after. */
  begun: readonly number[];
}

/**
 * Activities bound both ways, by greatest waits or by what they hold together, form groups that are placed whole (Tarjan’s strong
 * components of the graph of waits); between groups only least waits run, one way.
 */
export function groupsOf(c: Compiled): Groups {
  const next: number[][] = c.out.map((arcs) => arcs.map((a) => a.other));
  for (const { first, last } of c.claims)
    if (first !== last) {
      next[first]!.push(last);
      next[last]!.push(first);
    }
  const of = new Int32Array(c.n).fill(-1);
  const number = new Int32Array(c.n).fill(-1);
  const low = new Int32Array(c.n);
  const stack: number[] = [];
  const members: number[][] = [];
  let count = 0;
  for (let root = 0; root < c.n; root += 1) {
    if (number[root]! >= 0) continue;
    const path: { i: number; k: number }[] = [{ i: root, k: 0 }];
    while (path.length > 0) {
      const top = path.at(-1)!;
      const { i } = top;
      if (top.k === 0 && number[i]! < 0) {
        number[i] = low[i] = count;
        count += 1;
        stack.push(i);
      }
      const j = next[i]![top.k];
      if (j !== undefined) {
        top.k += 1;
        if (number[j]! < 0) path.push({ i: j, k: 0 });
        else if (of[j]! < 0) low[i] = Math.min(low[i]!, number[j]!);
        continue;
      }
      path.pop();
      const parent = path.at(-1);
      if (parent) low[parent.i] = Math.min(low[parent.i]!, low[i]!);
      if (low[i] !== number[i]) continue;
      const group: number[] = [];
      for (;;) {
        const j = stack.pop()!;
        of[j] = members.length;
        group.push(j);
        if (j === i) break;
      }
      members.push(group);
    }
  }
  // What the waits let begin first is placed first; ties by their place in the project.
  for (const group of members) group.sort((a, b) => c.earliest[a]! - c.earliest[b]! || a - b);
  // What is held begins before it ends, of things of no length too.
  for (const { first, last } of c.claims) {
    const group = members[of[first]!]!;
    const [from, to] = [group.indexOf(first), group.indexOf(last)];
    if (from <= to || c.earliest[first]! > c.earliest[last]!) continue;
    group.splice(from, 1);
    group.splice(to, 0, first);
  }
  const before = members.map(() => new Set<number>());
  const after = members.map(() => new Set<number>());
  c.out.forEach((arcs, i) => {
    for (const { other } of arcs) {
      if (of[other] === of[i]) continue;
      before[of[other]!]!.add(of[i]!);
      after[of[i]!]!.add(of[other]!);
    }
  });
  const claims: number[][] = members.map(() => []);
  c.claims.forEach(({ first }, k) => claims[of[first]!]!.push(k));
  const tail = tails(c);
  const hasBegun = (i: number) => c.fixedAt[i]! > -NEVER;
  // What is still to come after what has begun.
  const left = members.map((group) =>
    Math.max(...group.filter(hasBegun).map((i) => tail[i]! - c.duration[i]!)),
  );
  const begun = members
    .map((_, g) => g)
    .filter((g) => members[g]!.some(hasBegun))
    .sort((a, b) => left[a]! - left[b]! || a - b);
  return {
    of,
    members,
    claims,
    before: before.map((s) => [...s]),
    after: after.map((s) => [...s]),
    begun,
  };
}
