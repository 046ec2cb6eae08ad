import { seededRandom, type Random } from '../numerics/index.ts';
import { costOf, disturbed, giveWay, leastMoved, movedIn, type Found, type ReadyRoom } from './givingWay.ts';
import { HARDLY } from './moves.ts';
import type { Plan } from './project.ts';
import type { PlannedStep } from './room.ts';
import type { WorkshopProject } from './workshop.ts';

const MINUTE = 60_000;

const HOUR = 60 * MINUTE;

/** Steps that mending may move beyond those that could not stay. */
export const FEW = 12;

/** By how much what cannot stay is tried to wait for those after it, ms. */
const SHIFTS = [6, 12, 24, 48, 96, 192, 384].map((hours) => hours * HOUR);

/** Batches that may lie anywhere or look for their place before or after their turn. */
interface Turns {
  loose: ReadonlySet<string>;
  shift: ReadonlyMap<string, number>;
}

/**
 * The plan with few changes: everything where it was unless it can not. Where promises then slip, batches are loosened or let past others, first
 * by rule (what cannot stay some hours or days later; the late ones; those in their way), then drawn at random round the best so far, then
 * everything is planned anew; each taken only where the time it wins is worth the steps it moves. What moves many is not taken but told beside it.
 *
 * @param budgetMs time to draw, ms
 * @param anew plans everything anew, or does not
 * @returns null where something finds no place
 */
export function mendIn(
  ready: ReadyRoom,
  kept: readonly PlannedStep[],
  byHand: ReadonlySet<string>,
  {
    budgetMs,
    now = Date.now,
    anew,
  }: { budgetMs: number; now?: () => number; anew: (from: Plan) => Found | null },
): { found: Found; instead: Found | null } | null {
  const { workshop } = ready;
  const until = now() + budgetMs;
  const stay = leastMoved(ready, kept, { byHand });
  if (!stay) return null;
  const promised = latenessOf(workshop, kept);
  const isKept = (f: Found) => f.worth.lateness <= promised + HARDLY;
  if (isKept(stay)) return { found: stay, instead: null };
  const most = movedIn(ready, stay, kept) + FEW;
  // The best of those that move few, how it came about, and the best of all.
  let few = { ...stay, cost: costOf(ready, kept, stay) };
  let turns: Turns = { loose: new Set(), shift: new Map() };
  let all = few;
  const consider = (f: Found | null, how: Turns = turns) => {
    if (!f) return;
    const tried = { ...f, cost: costOf(ready, kept, f) };
    if (tried.cost < all.cost) all = tried;
    if (tried.cost >= few.cost || movedIn(ready, f, kept) > most) return;
    few = tried;
    turns = how;
  };
  const take = (how: Turns) => consider(giveWay(ready, kept, { byHand, ...how }), how);
  const late = lateBatches(ready, stay);
  const pressing = inTheWayOf(late, kept);
  const moved = disturbed(ready, kept);
  take({ loose: late, shift: new Map() });
  take({ loose: pressing, shift: new Map() });
  for (const by of SHIFTS) take({ loose: new Set(), shift: new Map([...moved].map((b) => [b, by])) });
  const pool = [...new Set([...pressing, ...moved])];
  const random = seededRandom(1);
  while (pool.length > 0 && !isKept(few) && now() < until) take(turnedAbout(turns, pool, random));
  // Whoever plans anew can win no more than what is late.
  if (!isKept(all)) consider(anew(all.plan));
  return { found: few, instead: all.cost < few.cost ? all : null };
}

/** Turns of which one or two batches have others: in their own turn again, or loose and before or after it by up to a fortnight. */
function turnedAbout({ loose, shift }: Turns, pool: readonly string[], random: Random): Turns {
  const next = { loose: new Set(loose), shift: new Map(shift) };
  for (let n = random() < 0.4 ? 2 : 1; n > 0; n -= 1) {
    const batch = pool[Math.floor(random() * pool.length)]!;
    if (next.shift.delete(batch) && random() < 0.4) {
      next.loose.delete(batch);
      continue;
    }
    const by = 2 * HOUR * 168 ** random();
    next.shift.set(batch, random() < 0.5 ? by : -by);
    if (random() < 0.7) next.loose.add(batch);
    else next.loose.delete(batch);
  }
  return next;
}

/** Batches of orders that are late in a plan. */
function lateBatches({ workshop: { project } }: ReadyRoom, { plan }: Found): Set<string> {
  const length = new Map(project.activities.map((a) => [a.id, a.duration]));
  return new Set(
    (project.orders ?? [])
      .filter((o) => o.activities.some((id) => plan.starts[id]! + length.get(id)! > o.due))
      .flatMap((o) => o.activities.map((id) => id.slice(0, id.indexOf('/')))),
  );
}

/** Some batches, and those that have a machine right before one of them. */
function inTheWayOf(batches: ReadonlySet<string>, kept: readonly PlannedStep[]): Set<string> {
  const all = new Set(batches);
  const byMachine = new Map<string, PlannedStep[]>();
  for (const s of kept)
    if (s.machineId !== null) byMachine.set(s.machineId, [...(byMachine.get(s.machineId) ?? []), s]);
  for (const steps of byMachine.values()) {
    const inOrder = steps.toSorted((a, b) => a.start.localeCompare(b.start));
    inOrder.forEach((s, i) => {
      if (batches.has(s.batch) && i > 0) all.add(inOrder[i - 1]!.batch);
    });
  }
  return all;
}

/** Weighted lateness of a plan as it was kept. */
function latenessOf({ project, zero }: WorkshopProject, kept: readonly PlannedStep[]): number {
  const ends = new Map(kept.map((s) => [s.key, Math.round((Date.parse(s.end) - zero) / MINUTE)]));
  return (project.orders ?? []).reduce(
    (sum, o) => sum + o.weight * Math.max(0, ...o.activities.map((id) => (ends.get(id) ?? o.due) - o.due)),
    0,
  );
}
