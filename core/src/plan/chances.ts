import { evenNormals, normalQuantile, requireWhole } from '../numerics/index.ts';
import { Board } from './board.ts';
import { compile, givenIn, NEVER } from './compiled.ts';
import { groupsOf } from './groups.ts';
import type { Plan } from './project.ts';
import { placeAll } from './serial.ts';
import type { WorkshopProject } from './workshop.ts';

/** Of two people or days the same batch takes unlike times; all of a batch share this part of the spread, as logarithm. */
const SHARED = 0.1;

/** Least time a step must be over sooner for somebody else to take it from whoever was to do it, minutes: half a day of work. */
const HAND_OVER = 240;

/** When each order is ready, over many drawn durations. */
export interface OrderDraws {
  orderId: string;
  /** Minutes, sorted. */
  done: number[];
  /** Share of draws in which it is in time. */
  chance: number;
}

/**
 * A plan tried on many drawn durations: every step takes a time from around its median and 80th percentile (log-normal, part of it
 * shared by a batch), machines and people keep what they were given and the order they have it in, and nothing starts before it was
 * planned, since people come by the plan; but what would wait half a day or more for one of them, who is away or busy, is done by whoever else may.
 * Whoever has begun something finishes it, beyond their hours if need be. Greatest waits are for
 * planning only: how long a thing will take is not known when it is begun, so that what ends at a bad hour waits until somebody comes.
 *
 * @param draws how many, at least 1
 * @param behind batches that make way for all others, whenever they were planned
 */
export function orderChances(
  workshop: WorkshopProject,
  plan: Plan,
  draws = 200,
  behind: ReadonlySet<string> = new Set(),
): OrderDraws[] {
  requireWhole(draws, 'the number of draws', 1);
  if (workshop.project.activities.length === 0) return [];
  const { project, steps, people } = workshop;
  const z80 = normalQuantile(0.8);
  const done = new Map((project.orders ?? []).map((o) => [o.id, [] as number[]]));
  // Rounded to whole minutes, and drawn anew for each.
  const c = compile({ ...project, activities: project.activities.map((a) => ({ ...a })) });
  const groups = groupsOf(c);
  const board = new Board(c, groups);
  board.wanted.set(givenIn(c, plan));
  board.handOver = HAND_OVER;
  c.claims.forEach(({ options }, k) => {
    board.mayChange[k] = Number(options.length > 1 && options.every((r) => people.has(c.resources[r]!.id)));
  });
  const start = project.activities.map((a) => plan.starts[a.id]!);
  const first = groups.members.map((g) => Math.min(...g.map((i) => start[i]!)));
  const waits = groups.members.map((g) => Number(g.some((i) => behind.has(steps[i]?.batch ?? ''))));
  const order = first
    .map((_, g) => g)
    .sort((a, b) => waits[a]! - waits[b]! || first[a]! - first[b]! || a - b);
  const usual = Float64Array.from(c.duration);
  const length = Float64Array.from(c.length);
  const into = c.into.map((arcs) => arcs.map((a) => a.lag));
  const out = c.out.map((arcs) => arcs.map((a) => a.lag));
  const wanted = Int32Array.from(board.wanted);
  // Of each draw a number for every step, and after those one for every batch.
  const places = new Map([...new Set(steps.map((s) => s.batch))].map((batch, k) => [batch, c.n + k]));
  for (const drawn of evenNormals(draws, c.n + places.size)) {
    const more = Float64Array.from(usual, (minutes, i) => {
      const step = steps[i];
      // What nobody sees takes no time.
      if (!step || minutes === 0) return 0;
      const { time, batch, begun } = step;
      // Of what has begun only what is left of it is open.
      const left = begun ? time.minutes : minutes;
      const sigma = Math.log(Math.max(1, time.minutes80 / time.minutes)) / z80;
      const draw = Math.sqrt(SHARED) * drawn[places.get(batch)!]! + Math.sqrt(1 - SHARED) * drawn[i]!;
      return Math.max(1, Math.round(left * Math.exp(sigma * draw))) - left;
    });
    // Least waits hold the durations of what they start from, but those from its beginning; holds are as long as what they hold.
    const lagOf = (lag: number, from: number) =>
      lag < 0 ? -NEVER : lag < usual[from]! ? lag : lag + more[from]!;
    for (let i = 0; i < c.n; i += 1) {
      c.duration[i] = usual[i]! + more[i]!;
      board.least[i] = start[i]!;
      c.into[i]!.forEach((arc, k) => (arc.lag = lagOf(into[i]![k]!, arc.other)));
      c.out[i]!.forEach((arc, k) => (arc.lag = lagOf(out[i]![k]!, i)));
    }
    c.claims.forEach(({ first: a, last }, k) => {
      c.length[k] = a === last ? c.duration[a]! : Math.max(1, length[k]! + more[last]!);
    });
    board.clear();
    board.wanted.set(wanted);
    let isPlaced = placeAll(board, groups, order) < 0;
    if (!isPlaced) {
      // A step that has grown beyond anyone’s hours is done by whoever can.
      board.wanted.fill(-1);
      isPlaced = placeAll(board, groups, order) < 0;
    }
    // What no way was found through says nothing of any day.
    if (!isPlaced) continue;
    for (const { id, activities } of c.orders)
      done.get(id)!.push(Math.max(...activities.map((i) => board.start[i]! + c.duration[i]!)));
  }
  return (project.orders ?? []).map(({ id, due: aimed }) => {
    const due = workshop.due.get(id) ?? aimed;
    const sorted = done.get(id)!.sort((a, b) => a - b);
    return {
      orderId: id,
      done: sorted,
      chance: sorted.filter((t) => t <= due).length / Math.max(1, sorted.length),
    };
  });
}
