import { seededRandom } from '../numerics/index.ts';
import { Board } from './board.ts';
import { boundOf, type PlanBound } from './bounds.ts';
import { compile, givenIn, NEVER, type Compiled } from './compiled.ts';
import { isDisjunctive, tabuSearch } from './disjunctive.ts';
import { exactSearch } from './exact.ts';
import { groupsOf, type Groups } from './groups.ts';
import { improve } from './improve.ts';
import { compareWorth, NoPlan, type Plan, type PlanProject, type PlanWorth } from './project.ts';
import { orderBy, orderByStarts, orderOf, placeAll, PRIORITY_RULES } from './serial.ts';

/** Activities up to which all plans are searched. */
const EXACT = 40;

/** The best plan so far, and how good it can be said to be. */
export interface Solved {
  plan: Plan;
  worth: PlanWorth;
  /** No plan is better than this. */
  bound: PlanBound;
  /** How far the end may lie above the best possible, as a share of it; 0 where that is proved. */
  gap: number;
  /** Whether no plan is better, evenness apart. */
  isProved: boolean;
  /** Plans made on the way. */
  tried: number;
}

/** How a plan is looked for. */
export interface SolveOptions {
  /** Time for it, ms; the first full plan comes before it is looked at. */
  budgetMs?: number;
  seed?: number;
  /** Clock, ms. */
  now?: () => number;
  /** Told of the first plan and of every better one. */
  onBetter?: (so: Solved) => void;
  /** Asked now and then; true ends the search with what there is. */
  isCancelled?: () => boolean;
  /** A plan to begin from, e.g. the one that is in force. */
  from?: Plan;
}

/**
 * Plans a project: the best of four priority rules placed serially, then, while there is time, search for better ones: tabu search where
 * only the order on machines is open, else moves over serial schedules, and beside it a search through all plans while they are few. Keeps
 * every rule of the project ({@link verifyPlan} checks it apart).
 *
 * @throws RangeError for what cannot be read, NoPlan where nothing was found that keeps all rules
 * @example solveProject({ activities: [{ id: 'roast', duration: 40 }] }).plan.starts // { roast: 0 }
 */
export function solveProject(
  project: PlanProject,
  {
    budgetMs = 10_000,
    seed = 1,
    now = Date.now,
    onBetter,
    isCancelled = () => false,
    from,
  }: SolveOptions = {},
): Solved {
  const begun = now();
  const c = compile(project);
  const groups = groupsOf(c);
  const board = new Board(c, groups);
  const random = seededRandom(seed);
  let best: { plan: Plan; worth: PlanWorth } | null = null;
  let bound: PlanBound = { lateness: 0, end: 0 };
  let isProved = false;
  let tried = 0;
  const solved = (): Solved => {
    const { plan, worth } = best!;
    const isBest = isProved || (worth.lateness <= bound.lateness && worth.end <= bound.end);
    const gap = isBest || bound.end <= 0 ? 0 : Math.max(0, worth.end / bound.end - 1);
    return {
      plan,
      worth,
      bound: isBest ? { lateness: worth.lateness, end: worth.end } : bound,
      gap,
      isProved: isBest,
      tried,
    };
  };
  const take = (plan: Plan, worth: PlanWorth) => {
    if (best && compareWorth(worth, best.worth) >= 0) return false;
    best = { plan, worth };
    onBetter?.(solved());
    return true;
  };

  let firstOrder: number[] | null = null;
  const begin = (order: readonly number[]) => {
    tried += 1;
    // Where the first order found no place however it was turned, others hardly will.
    if (!placeStubborn(board, groups, order, tried === 1 || best ? 12 : 2)) return;
    const worth = board.worth();
    if (take(board.plan(), worth)) firstOrder = orderOf(board, groups);
  };
  if (from) {
    const given = project.activities.map((a) => from.starts[a.id] ?? NEVER);
    const order = orderByStarts(groups, given);
    // As it was, nothing earlier and with the same hands; then as early as that order lets everything be.
    given.forEach((t, i) => {
      if (t < NEVER) board.least[i] = t;
    });
    board.wanted.set(givenIn(c, from));
    begin(order);
    board.clear();
    board.least.fill(-NEVER);
    board.wanted.fill(-1);
    begin(order);
  }
  for (const rule of PRIORITY_RULES) {
    begin(orderBy(rule, c, groups));
    if (now() - begun > Math.max(250, budgetMs)) break;
  }
  // A search that is over at once is not worth a bound.
  if (budgetMs >= 100) bound = boundOf(c, Math.min(500, budgetMs / 6), now);
  const deadline = begun + budgetMs;
  const isOver = () => now() >= deadline || isCancelled();
  const isMet = () => best !== null && best.worth.lateness <= bound.lateness && best.worth.end <= bound.end;

  const search = isDisjunctive(c) && best ? tabuSearch(c, startsOf(c, best), random) : null;
  const local =
    search === null && firstOrder && placeAll(board, groups, firstOrder) < 0
      ? improve(c, groups, board, random)
      : null;
  let exact = c.n <= EXACT ? exactSearch(c, best ? (best as { worth: PlanWorth }).worth : null) : null;
  // The two take turns; where there is no plan yet the whole search is the only hope.
  while (!isOver() && !isMet() && !isProved) {
    let isIdle = true;
    if (search) {
      const until = Math.min(deadline, now() + 20);
      while (now() < until) {
        const next = search.next();
        if (next.done) break;
        isIdle = false;
        tried += 256;
        if (next.value) takeStarts(groups, board, next.value, take);
        if (isMet()) break;
      }
    }
    if (local) {
      const until = Math.min(deadline, now() + (exact && best ? 10 : 30));
      while (now() < until) {
        const next = local.next();
        if (next.done) break;
        isIdle = false;
        tried += 1;
        if (next.value) take(board.plan(), board.worth());
        if (isMet()) break;
      }
    }
    if (exact) {
      const until = Math.min(deadline, now() + 25);
      let last = exact.next();
      isIdle = false;
      while (!last.done && now() < until) last = exact.next();
      const found = last.value.best;
      if (found) {
        const placed = replace(c, groups, board, found.plan);
        const isAsGood =
          placed !== null &&
          placed.worth.lateness <= found.worth.lateness &&
          placed.worth.end <= found.worth.end;
        if (isAsGood) take(placed.plan, placed.worth);
        else take(found.plan, { ...found.worth, unevenness: 0 });
      }
      if (last.value.isDone) {
        isProved = best !== null;
        exact = null;
        if (!best) break;
      }
    }
    if (isIdle) break;
  }
  if (!best) {
    const failed = groups.members[placeAll(board, groups, orderBy('earliest start', c, groups))] ?? [];
    const ids = failed.map((i) => project.activities[i]!.id);
    throw new NoPlan(
      `no plan keeps every rule: ${ids.join(', ') || 'some activity'} found no place within its waits`,
      ids,
    );
  }
  return solved();
}

/** Places in an order; a group without a place goes before everything else once, and more often if need be. */
function placeStubborn(board: Board, groups: Groups, order: readonly number[], most: number): boolean {
  let list = [...order];
  for (let turns = 0; turns < most; turns += 1) {
    const failed = placeAll(board, groups, list);
    if (failed < 0) return true;
    list = [failed, ...list.filter((g) => g !== failed)];
  }
  return false;
}

const startsOf = (c: Compiled, { plan }: { plan: Plan }) =>
  Float64Array.from(c.project.activities, ({ id }) => plan.starts[id]!);

function takeStarts(
  groups: Groups,
  board: Board,
  starts: Float64Array,
  take: (plan: Plan, worth: PlanWorth) => boolean,
): void {
  if (placeAll(board, groups, orderByStarts(groups, starts)) < 0) take(board.plan(), board.worth());
}

/** A plan placed anew in its own order, which tells how even it is; null where it finds no place. */
function replace(
  c: Compiled,
  groups: Groups,
  board: Board,
  plan: Plan,
): { plan: Plan; worth: PlanWorth } | null {
  const starts = startsOf(c, { plan });
  let placed: { plan: Plan; worth: PlanWorth } | null = null;
  takeStarts(groups, board, starts, (p, worth) => {
    placed = { plan: p, worth };
    return true;
  });
  return placed;
}
