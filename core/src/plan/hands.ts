import { Board } from './board.ts';
import { compile, givenIn } from './compiled.ts';
import { placeNear, type Found } from './givingWay.ts';
import { groupsOf } from './groups.ts';
import { openNeeds, withWork, workOf, type Open } from './machineWork.ts';
import { compareWorth, NoPlan, type Plan, type PlanProject } from './project.ts';
import type { PlanRoom } from './room.ts';
import { orderByStarts } from './serial.ts';
import { crewOf } from './setUp.ts';
import { solveProject, type Solved, type SolveOptions } from './solve.ts';
import type { WorkshopProject } from './workshop.ts';

/** Rounds of making time for whoever has to make machines ready. */
const ROUNDS = 6;

/** Shares of the time in which a plan is looked for without the work on machines, and then again and again with what lies between its charges. */
const SHARES = [0.3, 0.2, 0.2, 0.15, 0.15];

/**
 * Solves a workshop’s project so that somebody has the time to make each machine ready. What has to be done between two charges depends on
 * which they are: so the charges are laid first, and what lies between them is given time ({@link giveHands}); then better plans are looked for in
 * which that is work of its own, and where they bring other charges together, those are given time in turn. Of all that, the best is taken in which the
 * fewest machines are made ready by nobody.
 */
export function solveWithHands(
  room: PlanRoom,
  workshop: WorkshopProject,
  { budgetMs = 10_000, onBetter, ...options }: SolveOptions,
): Solved {
  const { project } = workshop;
  const able = crewOf(room);
  const isPlain = (project.resources ?? []).every((r) =>
    Object.values(r.setUp ?? {}).every((row) => Object.values(row).every((minutes) => minutes === 0)),
  );
  if (isPlain || able.length === 0) return solveProject(project, { ...options, onBetter, budgetMs });
  const first = solveProject(project, { ...options, onBetter, budgetMs: budgetMs * SHARES[0]! });
  // The bound is that of all plans, whatever lies between the charges.
  const { bound } = first;
  let { tried } = first;
  let best: Found & { unmet: number } = { ...first, unmet: Infinity };
  const told = (): Solved => {
    const { plan, worth } = best;
    const isProved = worth.lateness <= bound.lateness && worth.end <= bound.end;
    const gap = isProved || bound.end <= 0 ? 0 : Math.max(0, worth.end / bound.end - 1);
    return { plan, worth, bound, gap, isProved, tried };
  };
  const consider = (found: Found) => {
    const given = giveHands(room, workshop, found);
    const { unmet } = openNeeds(room, workshop, given.plan);
    if (unmet > best.unmet || (unmet === best.unmet && compareWorth(given.worth, best.worth) >= 0)) return;
    best = { ...given, unmet };
    if (best.unmet === 0) onBetter?.(told());
  };
  consider(first);
  const slices = budgetMs > 0 ? SHARES.slice(1) : [0, 0];
  for (const [k, share] of slices.entries()) {
    if (told().isProved || options.isCancelled?.()) break;
    const { needs } = openNeeds(room, workshop, best.plan);
    const next = solvedOr(withWork(project, able, needs), {
      ...options,
      seed: (options.seed ?? 1) + k,
      from: best.plan,
      budgetMs: budgetMs * share,
    });
    if (next === null) break;
    tried += next.tried;
    consider(next);
  }
  return told();
}

/** A project solved; nothing where nothing is found. */
function solvedOr(project: PlanProject, options: SolveOptions): Solved | null {
  try {
    return solveProject(project, options);
  } catch (e) {
    if (!(e instanceof NoPlan)) throw e;
    return null;
  }
}

/**
 * A plan that was mended, with time for whoever has to make machines ready: where nobody has, the next charge waits until somebody is free, and what
 * waits for that; everything else stays at or after where it was, with other hands where that is sooner. Where that cannot be had the plan is as it was.
 */
export function giveHands(room: PlanRoom, workshop: WorkshopProject, found: Found): Found {
  const able = crewOf(room);
  let best = found;
  for (let round = 0; able.length > 0 && round < ROUNDS; round += 1) {
    const { needs, unmet } = openNeeds(room, workshop, best.plan);
    if (unmet === 0) break;
    const next = withTimeFor(withWork(workshop.project, able, needs), needs, best.plan);
    if (!next) break;
    best = next;
  }
  return best;
}

/** A plan in which work on machines finds its place right before its charges. */
function withTimeFor(project: PlanProject, needs: readonly Open[], plan: Plan): Found | null {
  const c = compile(project);
  const groups = groupsOf(c);
  const board = new Board(c, groups);
  const given = givenIn(c, plan);
  c.claims.forEach(({ timed }, k) => ((timed ? board.preferred : board.wanted)[k] = given[k]!));
  const begins = new Map(needs.map(([step]) => [workOf(step), plan.starts[step]!]));
  const turn = project.activities.map(({ id }) => begins.get(id) ?? plan.starts[id]!);
  project.activities.forEach(({ id }, i) => {
    if (!begins.has(id)) board.least[i] = plan.starts[id]!;
  });
  return placeNear(board, groups, orderByStarts(groups, turn));
}
