import { isRefuted, linesOf } from './bounds.ts';
import { afterSetUp, leastStarts, NEVER, setUpOf, type Arc, type Compiled } from './compiled.ts';
import type { Plan, PlanWorth } from './project.ts';
import { tails } from './tails.ts';

type Worth = Pick<PlanWorth, 'lateness' | 'end'>;

/** What a search over all plans has come to. */
export interface ExactState {
  best: { plan: Plan; worth: Worth } | null;
  /** Whether every plan has been looked at or ruled out. */
  isDone: boolean;
  nodes: number;
}

/** Set-up between two claims on one resource. */
const between = (c: Compiled, r: number, a: number, b: number) =>
  setUpOf(c, r, c.claims[a]!.family, c.claims[b]!.family);

/** A difference that is asked for besides, and the activity it starts from; `c.n` for the beginning of the plan. */
interface Extra {
  from: number;
  arc: Arc;
}

/**
 * That one claim comes after another, set-up between them. Where that has hours, no plan below here ends the first sooner than now, and so
 * none begins the second before the hours let it.
 */
function comesAfter(c: Compiled, r: number, a: number, b: number, end: number): Extra[] {
  const [x, y] = [c.claims[a]!, c.claims[b]!];
  const minutes = between(c, r, a, b);
  const after: Extra = { from: x.last, arc: { other: y.first, lag: c.duration[x.last]! + minutes } };
  if (minutes === 0 || !c.resources[r]!.setUpWindows) return [after];
  return [after, { from: c.n, arc: { other: y.first, lag: afterSetUp(c.resources[r]!, end, minutes) } }];
}

/**
 * All plans, by branching on conflicts: least starts that keep waits and hours are a bound for everything below them; where too much
 * runs at once, in every plan some two of it come after each other, and each way is tried (after De Reyck and Herroelen, 1998; choices
 * between resources are branched on where no conflict is left). Better than `than` is looked for; equal is as good as ruled out. What
 * it does not model is how evenly people work. Yields now and then, so that whoever asks may stop it.
 */
export function* exactSearch(c: Compiled, than: Worth | null): Generator<ExactState, ExactState> {
  const state: ExactState = { best: null, isDone: false, nodes: 0 };
  const extra: Arc[][] = Array.from({ length: c.n + 1 }, () => []);
  const choice = new Int32Array(c.claims.length).fill(-1);
  c.claims.forEach(({ options }, k) => {
    if (options.length === 1) choice[k] = options[0]!;
  });
  // Edge finding is worth its time where only the end counts.
  const lines = c.orders.length === 0 ? linesOf(c) : [];
  const tail = tails(c);
  let best = than;
  const worthOf = (start: Float64Array): Worth => {
    let end = -NEVER;
    for (let i = 0; i < c.n; i += 1) end = Math.max(end, start[i]! + c.duration[i]!);
    let lateness = 0;
    for (const { activities, due, weight } of c.orders) {
      let done = -NEVER;
      for (const i of activities) done = Math.max(done, start[i]! + c.duration[i]!);
      lateness += weight * Math.max(0, done - due);
    }
    return { lateness, end };
  };
  const isBetter = (a: Worth) =>
    best === null || a.lateness < best.lateness || (a.lateness === best.lateness && a.end < best.end);

  /** What a node leads to: arcs to try one after the other, or resources for a claim. */
  type Branch = { arcs: Extra[][] } | { claim: number; options: readonly number[] };

  const branchOf = (): Branch | null => {
    state.nodes += 1;
    const limit = best && c.orders.length === 0 ? best.end : NEVER / 2;
    const start = leastStarts(c, { extra, choice, limit });
    if (typeof start === 'number') return null;
    const worth = worthOf(start);
    if (!isBetter(worth)) return null;
    if (best && lines.length > 0 && isRefuted(c, lines, tail, best.end - 1, extra)) return null;
    const conflict = conflictOf(c, start, choice);
    if (conflict) return { arcs: conflict };
    const open = choice.findIndex((r) => r < 0);
    if (open >= 0) return { claim: open, options: c.claims[open]!.options };
    best = worth;
    state.best = { plan: planOf(c, start, choice), worth };
    return null;
  };

  const stack: { branch: Branch; k: number }[] = [];
  const root = branchOf();
  if (root) stack.push({ branch: root, k: -1 });
  let turns = 0;
  while (stack.length > 0) {
    const top = stack.at(-1)!;
    const { branch } = top;
    // What was tried last is taken back first.
    if (top.k >= 0) {
      if ('arcs' in branch) for (const { from } of branch.arcs[top.k]!) extra[from]!.pop();
      else choice[branch.claim] = -1;
    }
    top.k += 1;
    if (top.k >= ('arcs' in branch ? branch.arcs : branch.options).length) {
      stack.pop();
      continue;
    }
    if ('arcs' in branch) for (const { from, arc } of branch.arcs[top.k]!) extra[from]!.push(arc);
    else choice[branch.claim] = branch.options[top.k]!;
    const next = branchOf();
    if (next) stack.push({ branch: next, k: -1 });
    turns += 1;
    if (turns % 64 === 0) yield state;
  }
  state.isDone = true;
  return state;
}

/** Two of what runs at once and cannot, either way round; null where everything has room. */
function conflictOf(c: Compiled, start: Float64Array, choice: Int32Array): Extra[][] | null {
  let found: { at: number; claims: number[]; r: number } | null = null;
  const on: number[][] = c.resources.map(() => []);
  choice.forEach((r, k) => r >= 0 && on[r]!.push(k));
  const from = (k: number) => start[c.claims[k]!.first]!;
  const to = (k: number) => {
    const { first, last } = c.claims[k]!;
    return Math.max(start[last]! + c.duration[last]!, start[first]!);
  };
  on.forEach((claims, r) => {
    const { capacity, setUp } = c.resources[r]!;
    claims.sort((a, b) => from(a) - from(b) || a - b);
    claims.forEach((k, place) => {
      const at = from(k);
      if (found && found.at <= at) return;
      const running = claims.slice(0, place).filter((m) => to(m) > at && to(m) > from(m));
      if (capacity === 1) {
        const other =
          running.find((m) => to(k) > at || from(m) < at) ??
          (setUp
            ? claims
                .slice(0, place)
                .find(
                  (m) =>
                    place > 0 &&
                    m === claims[place - 1] &&
                    afterSetUp(c.resources[r]!, to(m), between(c, r, m, k)) > at,
                )
            : undefined);
        if (other !== undefined && !bothBegun(c, other, k)) found = { at, claims: [other, k], r };
        return;
      }
      const set = [...running, k].sort((a, b) => c.claims[b]!.amount - c.claims[a]!.amount);
      let sum = set.reduce((s, m) => s + c.claims[m]!.amount, 0);
      if (sum <= capacity) return;
      // As few as are still too many.
      for (const m of [...set].reverse())
        if (sum - c.claims[m]!.amount > capacity) {
          sum -= c.claims[m]!.amount;
          set.splice(set.indexOf(m), 1);
        }
      found = { at, claims: set, r };
    });
  });
  if (!found) return ranLastConflict(c, start, choice);
  const { claims, r } = found as { claims: number[]; r: number };
  return claims.flatMap((a) =>
    claims.flatMap((b) => {
      return a === b ? [] : [comesAfter(c, r, a, b, to(a))];
    }),
  );
}

const bothBegun = (c: Compiled, a: number, b: number) =>
  c.fixedAt[c.claims[a]!.first]! > -NEVER && c.fixedAt[c.claims[b]!.first]! > -NEVER;

/** The first thing on a resource begins before it is set up from what ran last: either it waits, or something else goes first. */
function ranLastConflict(c: Compiled, start: Float64Array, choice: Int32Array): Extra[][] | null {
  for (const [r, { setUp, ranLast }] of c.resources.entries()) {
    if (!setUp || ranLast < 0) continue;
    const claims = c.claims.flatMap((_, k) => (choice[k] === r ? [k] : []));
    const begins = (k: number) => start[c.claims[k]!.first]!;
    const ends = (k: number) => start[c.claims[k]!.last]! + c.duration[c.claims[k]!.last]!;
    const first = claims.sort((a, b) => begins(a) - begins(b))[0];
    if (first === undefined || c.claims[first]!.family < 0 || c.fixedAt[c.claims[first]!.first]! > -NEVER)
      continue;
    const wait = afterSetUp(c.resources[r]!, 0, setUpOf(c, r, ranLast, c.claims[first]!.family));
    if (begins(first) >= wait) continue;
    const { first: a } = c.claims[first]!;
    return [
      // From the beginning of the plan.
      [{ from: c.n, arc: { other: a, lag: wait } }],
      ...claims.filter((k) => k !== first).map((k) => comesAfter(c, r, k, first, ends(k))),
    ];
  }
  return null;
}

function planOf(c: Compiled, start: Float64Array, choice: Int32Array): Plan {
  const given: Record<string, string[]> = {};
  c.claims.forEach(({ owner }, k) => {
    given[owner] = [...(given[owner] ?? []), c.resources[choice[k]!]!.id];
  });
  return {
    starts: Object.fromEntries(c.project.activities.map(({ id }, i) => [id, start[i]!])),
    given,
  };
}
