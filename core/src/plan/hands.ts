import { Board } from './board.ts';
import type { PlanBound } from './bounds.ts';
import { compile, givenIn } from './compiled.ts';
import { placeNear, type Found } from './givingWay.ts';
import { groupsOf } from './groups.ts';
import { openNeeds, withWork, workOf, type Open } from './machineWork.ts';
import { compareWorth, NoPlan, type Plan, type PlanProject } from './project.ts';
import type { PlanRoom } from './room.ts';
import { maySetUp } from './setUp.ts';
import { solveProject, type Solved, type SolveOptions } from './solve.ts';
import type { WorkshopProject } from './workshop.ts';

/** Rounds of making time for whoever has to make machines ready. */
const ROUNDS = 6;

/** Shares of the time in which a plan is looked for without, and then with, the work on machines as activities of its own. */
const SHARES = [0.4, 0.3, 0.3];

/**
 * Solves a workshop’s project so that somebody has the time to make each machine ready. What has to be done between two charges depends on
 * which they are: so the charges are laid first, then all is planned again with what lies between them as work for hands, until that fits.
 * Where it never does the plan with the fewest that nobody does is taken.
 */
export function solveWithHands(
  room: PlanRoom,
  workshop: WorkshopProject,
  { budgetMs = 10_000, ...options }: SolveOptions,
): Solved {
  const { project } = workshop;
  const able = room.people.filter(maySetUp).map((p) => p.id);
  const isPlain = (project.resources ?? []).every((r) =>
    Object.values(r.setUp ?? {}).every((row) => Object.values(row).every((minutes) => minutes === 0)),
  );
  if (isPlain || able.length === 0) return solveProject(project, { ...options, budgetMs });
  let best: { solved: Solved; unmet: number } | null = null;
  let needs: Open[] = [];
  let { from } = options;
  let tried = 0;
  for (let round = 0; round < ROUNDS; round += 1) {
    const solved = solvedOr(best?.solved ?? null, withWork(project, able, needs), {
      ...options,
      from,
      budgetMs: budgetMs * (SHARES[round] ?? 0),
    });
    if (solved === null) break;
    tried += solved.tried;
    const open = openNeeds(room, workshop, solved.plan);
    const isBetter =
      best === null ||
      open.unmet < best.unmet ||
      (open.unmet === best.unmet && compareWorth(solved.worth, best.solved.worth) < 0);
    // The bound is that of all plans, whatever lies between the charges.
    const bound: PlanBound = best?.solved.bound ?? solved.bound;
    if (isBetter) best = { solved: { ...solved, bound }, unmet: open.unmet };
    const isOver = round + 1 >= SHARES.length || budgetMs === 0 || solved.isProved;
    if ((open.unmet === 0 && isOver) || options.isCancelled?.()) break;
    ({ needs } = open);
    from = solved.plan;
  }
  const { worth, bound } = best!.solved;
  const isProved = worth.lateness <= bound.lateness && worth.end <= bound.end;
  const gap = isProved || bound.end <= 0 ? 0 : Math.max(0, worth.end / bound.end - 1);
  return { ...best!.solved, tried, isProved, gap };
}

/** A project solved; nothing where it cannot be, and there is a plan already that leaves some of its work open. */
function solvedOr(before: Solved | null, project: PlanProject, options: SolveOptions): Solved | null {
  try {
    return solveProject(project, options);
  } catch (e) {
    if (before === null || !(e instanceof NoPlan)) throw e;
    return null;
  }
}

/**
 * A plan that was mended, with time for whoever has to make machines ready: where nobody has, the next charge waits until somebody is free, and what
 * waits for that; everything else stays at or after where it was. Where that cannot be had the plan is as it was.
 */
export function giveHands(room: PlanRoom, workshop: WorkshopProject, found: Found): Found {
  const able = room.people.filter(maySetUp).map((p) => p.id);
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
  board.wanted.set(givenIn(c, plan));
  const begins = new Map(needs.map(([step]) => [workOf(step), plan.starts[step]!]));
  const turn = project.activities.map(({ id }) => begins.get(id) ?? plan.starts[id]!);
  project.activities.forEach(({ id }, i) => {
    if (!begins.has(id)) board.least[i] = plan.starts[id]!;
  });
  const first = groups.members.map((g) => Math.min(...g.map((i) => turn[i]!)));
  const order = first.map((_, g) => g).sort((a, b) => first[a]! - first[b]! || a - b);
  return placeNear(board, groups, order);
}
