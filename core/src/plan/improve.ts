import type { Random } from '../numerics/index.ts';
import { Board } from './board.ts';
import { compile, NEVER, type Compiled } from './compiled.ts';
import { groupsOf, type Groups } from './groups.ts';
import { compareWorth, type PlanProject, type PlanWorth } from './project.ts';
import { orderOf, placeAll } from './serial.ts';

/** How much worse than the best a plan may be that is searched on from, as a share. */
const SLACK = 0.01;

/**
 * Better and better plans from a first one: groups are moved in the order in which they are placed, those that are late or last more
 * often, machines are changed, and everything is placed anew (a large-neighbourhood search over serial schedules that goes on from
 * what is hardly worse than the best: record-to-record travel, Dueck, 1993). Where nothing but waits and capacities binds, plans are also
 * justified to the right and left (Valls, Ballestín and Quintanilla, 2005). Yields true with every better plan on the board, false in between.
 */
export function* improve(
  c: Compiled,
  groups: Groups,
  board: Board,
  random: Random,
): Generator<boolean, void> {
  let current = orderOf(board, groups);
  let best = board.worth();
  let held = best;
  let wanted = Int32Array.from(board.wanted);
  const choices = c.claims.flatMap(({ options, first, last }, k) =>
    options.length > 1 && first !== last ? [k] : [],
  );
  const justify = isPlain(c) ? justifier(c.project) : null;
  const count = current.length;
  if (count < 2 && choices.length === 0) return;
  for (;;) {
    const order = [...current];
    board.wanted.set(wanted);
    const moves = 1 + Math.floor(random() * random() * 4);
    for (let m = 0; m < moves; m += 1) {
      if (choices.length > 0 && random() < 0.25) {
        const k = choices[Math.floor(random() * choices.length)]!;
        const { options } = c.claims[k]!;
        if (isFree(c, k))
          board.wanted[k] = random() < 0.3 ? -1 : options[Math.floor(random() * options.length)]!;
        continue;
      }
      // What presses goes forward, with everything of its own before it; the rest either way.
      if (random() < 0.6) {
        bringForward(groups, order, pressing(c, groups, board, order, random), random);
        continue;
      }
      const from = Math.floor(random() * count);
      const reach = random() < 0.8 ? Math.max(2, Math.ceil(count * 0.08)) : count;
      const to = Math.min(count - 1, Math.max(0, from + Math.round((random() * 2 - 1) * reach)));
      const [g] = order.splice(from, 1);
      order.splice(to, 0, g!);
    }
    if (placeAll(board, groups, order) >= 0) {
      yield false;
      continue;
    }
    let worth = board.worth();
    if (justify && worth.end <= held.end * (1 + 2 * SLACK)) {
      const better = justify(board);
      if (better && placeAll(board, groups, better) < 0) worth = board.worth();
    }
    const isBest = compareWorth(worth, best) < 0;
    if (isBest || isNear(worth, best)) {
      held = worth;
      current = orderOf(board, groups);
      wanted = Int32Array.from(board.wanted);
    }
    if (isBest) best = worth;
    yield isBest;
  }
}

const isFree = (c: Compiled, k: number) => c.fixedAt[c.claims[k]!.first]! === -NEVER;

const isNear = (worth: PlanWorth, best: PlanWorth) =>
  worth.lateness <= best.lateness * (1 + SLACK) && worth.end <= best.end * (1 + SLACK);

/** A place in the order that holds something back: a group of a late order, or the last that end. */
function pressing(
  c: Compiled,
  groups: Groups,
  board: Board,
  order: readonly number[],
  random: Random,
): number {
  const late = c.orders.filter(({ activities, due }) =>
    activities.some((i) => board.isPlaced(i) && board.start[i]! + c.duration[i]! > due),
  );
  if (late.length > 0) {
    const { activities } = late[Math.floor(random() * late.length)]!;
    // Anything the last of them waits for, some steps back.
    let i = activities[Math.floor(random() * activities.length)]!;
    for (let back = Math.floor(random() * 12); back > 0; back -= 1) {
      const { other } = c.into[i]![Math.floor(random() * c.into[i]!.length)] ?? { other: -1 };
      if (other < 0) break;
      i = other;
    }
    const place = order.indexOf(groups.of[i]!);
    if (place >= 0) return place;
  }
  return Math.floor((1 - random() * random()) * order.length);
}

/** Moves a group, and what it waits for, forward in the order by a random reach. */
function bringForward(groups: Groups, order: number[], place: number, random: Random): void {
  const count = order.length;
  const g = order[place]!;
  const own = new Set([g]);
  const queue = [g];
  for (let head = 0; head < queue.length && own.size < 8; head += 1)
    for (const b of groups.before[queue[head]!]!)
      if (!own.has(b)) {
        own.add(b);
        queue.push(b);
      }
  const reach = 1 + Math.floor(random() * random() * count * 0.3);
  const taken = order.filter((x) => own.has(x));
  const first = order.indexOf(taken[0]!);
  const left = order.filter((x) => !own.has(x));
  const to = Math.max(0, first - reach);
  // As close together as they go, each after what it follows.
  left.splice(to, 0, ...taken);
  order.splice(0, count, ...left);
}

/** Whether only waits and capacities bind. */
function isPlain(c: Compiled): boolean {
  return (
    c.orders.length === 0 &&
    c.resources.every((r) => r.windows === null && r.setUp === null) &&
    c.claims.every((k) => k.first === k.last) &&
    c.fixedAt.every((t) => t === -NEVER) &&
    c.notBefore.every((t) => t === 0)
  );
}

/** Justification: everything as late as the end allows, by ends; then the order in which it begins is placed from the left again. */
function justifier(project: PlanProject): ((board: Board) => number[] | null) | null {
  const mirrored = compile({
    ...project,
    waits: (project.waits ?? []).map((w) => ({ ...w, from: w.to, to: w.from })),
  });
  const groups = groupsOf(mirrored);
  const forward = groupsOf(compile(project));
  const back = new Board(mirrored, groups);
  return (board) => {
    const ends = groups.members.map((group) =>
      Math.max(...group.map((i) => board.start[i]! + mirrored.duration[i]!)),
    );
    const order = ends.map((_, g) => g).sort((a, b) => ends[b]! - ends[a]!);
    if (placeAll(back, groups, order) >= 0) return null;
    // Late starts count backwards; what begins last in the mirror goes first.
    const last = forward.members.map((group) =>
      Math.max(...group.map((i) => back.start[i]! + mirrored.duration[i]!)),
    );
    return last.map((_, g) => g).sort((a, b) => last[b]! - last[a]!);
  };
}
