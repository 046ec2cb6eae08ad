import { requireWhole, seededRandom, shuffled } from '../numerics/index.ts';

/** Samples after which the mouth needs a rest. */
export const FLIGHT = 5;

/** Fewest and most samples of a session. */
export const SAMPLES = { fewest: 2, most: 16 } as const;

/** In which order each assessor meets the samples, and how well it is balanced. */
export interface Serving {
  /** One order an assessor and round (assessor by assessor), of indices of samples. */
  orders: number[][];
  /** A rest comes after so many samples, each time; the flights are as even as can be. */
  flights: number[];
  balance: Balance;
}

/** How even an arrangement is: how often each sample stands at each place, and right after each other one within a flight. */
export interface Balance {
  place: { fewest: number; most: number };
  /** Pairs (first, then) of different samples. */
  after: { fewest: number; most: number };
  /** Whether both are exactly even. */
  exact: boolean;
}

/**
 * A Williams design: a Latin square of `samples` columns (two squares where odd) in which each sample stands once at each
 * place and follows each other sample equally often (Williams, 1949).
 *
 * @throws RangeError below 2 samples or above 16
 * @example williamsDesign(4) // [[0,1,3,2],[1,2,0,3],[2,3,1,0],[3,0,2,1]]
 */
export function williamsDesign(samples: number): number[][] {
  requireSamples(samples);
  const first: number[] = [];
  for (let k = 0; k < samples; k += 1) first.push(k % 2 ? (k + 1) / 2 : (samples - k / 2) % samples);
  const square = Array.from({ length: samples }, (_, i) => first.map((v) => (v + i) % samples));
  return samples % 2 === 0 ? square : [...square, ...square.map((row) => [...row].reverse())];
}

/**
 * Serving orders for a panel: rows of Williams designs, each whole design under fresh names for the samples so that no one order comes
 * too often; what is left over when the panel is no multiple of it is chosen so that places and carry-over come out as even as
 * can be found. Above {@link FLIGHT} samples the order is cut into flights with a rest between, and carry-over counts within them only.
 *
 * @param seed the same orders again for the same seed
 * @throws RangeError for fewer than 2 samples, or no assessor or round
 */
export function servingOrders({
  samples,
  assessors,
  rounds = 1,
  flight = FLIGHT,
  seed,
}: {
  samples: number;
  assessors: number;
  rounds?: number;
  flight?: number;
  seed: number;
}): Serving {
  requireSamples(samples);
  requireWhole(assessors, 'the number of assessors', 1);
  requireWhole(rounds, 'the number of rounds', 1);
  requireWhole(flight, 'the samples of a flight', 1);
  const random = seededRandom(seed);
  const flights = flightsOf(samples, flight);
  const rests = restsAfter(flights);
  const wanted = assessors * rounds;
  const orders: number[][] = [];
  while (orders.length < wanted) {
    const design = williamsDesign(samples);
    const block = renamed(design, random);
    if (wanted - orders.length >= block.length) orders.push(...shuffled(block, random));
    else orders.push(...bestRows(orders, wanted - orders.length, samples, rests, random));
  }
  return { orders: apart(orders, rounds), flights, balance: balanceOf(orders, samples, flights) };
}

/** Flights as even as can be: 7 samples in flights of at most 5 are 4 and 3. */
function flightsOf(samples: number, flight: number): number[] {
  const count = Math.ceil(samples / flight);
  return Array.from({ length: count }, (_, i) => Math.floor(samples / count) + Number(i < samples % count));
}

/** Places before which there is a rest. */
function restsAfter(flights: readonly number[]): Set<number> {
  let at = 0;
  return new Set(flights.slice(0, -1).map((f) => (at += f)));
}

/**
 * How even orders are.
 *
 * @param flights samples between two rests; their sum is the length of every order
 * @throws RangeError for an order that names what is no sample
 */
export function balanceOf(
  orders: readonly (readonly number[])[],
  samples: number,
  flights: readonly number[] = [samples],
): Balance {
  for (const order of orders)
    if (order.some((s) => !Number.isInteger(s) || s < 0 || s >= samples))
      throw new RangeError(`an order names samples 0 to ${samples - 1}, not ${order.join(', ')}`);
  const counts = tally(orders, samples, restsAfter(flights));
  const range = (values: readonly number[]) =>
    values.length === 0 ? { fewest: 0, most: 0 } : { fewest: Math.min(...values), most: Math.max(...values) };
  const place = range(counts.place.flat());
  const after = range(counts.after.flatMap((row, a) => row.filter((_, b) => a !== b)));
  return { place, after, exact: place.fewest === place.most && after.fewest === after.most };
}

function tally(orders: readonly (readonly number[])[], samples: number, rests: ReadonlySet<number>) {
  const grid = () => Array.from({ length: samples }, () => new Array<number>(samples).fill(0));
  const [place, after] = [grid(), grid()];
  for (const order of orders)
    order.forEach((s, at) => {
      place[s]![at]! += 1;
      if (at > 0 && !rests.has(at)) after[order[at - 1]!]![s]! += 1;
    });
  return { place, after };
}

/** Rows of many renamed designs, of which those are taken one by one that leave the least unevenness. */
function bestRows(
  before: readonly (readonly number[])[],
  count: number,
  samples: number,
  rests: ReadonlySet<number>,
  random: () => number,
): number[][] {
  let best: { rows: number[][]; cost: number } | null = null;
  for (let attempt = 0; attempt < 24; attempt += 1) {
    const pool = [0, 1, 2].flatMap(() => renamed(williamsDesign(samples), random));
    const rows: number[][] = [];
    while (rows.length < count) {
      const costs = pool.map((row) => unevenness([...before, ...rows, row], samples, rests));
      const least = costs.indexOf(Math.min(...costs));
      rows.push(...pool.splice(least, 1));
    }
    const cost = unevenness([...before, ...rows], samples, rests);
    if (!best || cost < best.cost) best = { rows, cost };
  }
  return best!.rows;
}

/** Sum of squares of all counts: least where they are even. Each place and each follower weigh the same. */
function unevenness(
  orders: readonly (readonly number[])[],
  samples: number,
  rests: ReadonlySet<number>,
): number {
  const { place, after } = tally(orders, samples, rests);
  const squares = (rows: readonly (readonly number[])[]) =>
    rows.reduce((sum, row) => sum + row.reduce((s, v) => s + v * v, 0), 0);
  return squares(place) + squares(after);
}

/** Rounds of one assessor lie far apart in the list, so that nobody meets the same order twice running. */
function apart(orders: readonly number[][], rounds: number): number[][] {
  const assessors = orders.length / rounds;
  return Array.from({ length: orders.length }, (_, i) => {
    const [who, round] = [Math.floor(i / rounds), i % rounds];
    return orders[round * assessors + ((who + round) % assessors)]!;
  });
}

function renamed(design: readonly (readonly number[])[], random: () => number): number[][] {
  const names = shuffled(
    design[0]!.map((_, i) => i),
    random,
  );
  return design.map((row) => row.map((s) => names[s]!));
}

/** @throws RangeError for what no session serves */
function requireSamples(samples: number): void {
  requireWhole(samples, 'the number of samples', SAMPLES.fewest);
  if (samples > SAMPLES.most)
    throw new RangeError(`a session serves at most ${SAMPLES.most} samples, not ${samples}`);
}

/**
 * Three-digit codes that lead nobody: no leading 0, no digit twice, no run up or down, no two within 9 of each other while there is room.
 *
 * @throws RangeError for more than 400 codes
 */
export function blindCodes(count: number, seed: number): string[] {
  requireWhole(count, 'the number of codes', 1);
  if (count > 400) throw new RangeError(`there are no more than 400 plain codes, not ${count}`);
  const plain: number[] = [];
  for (let n = 100; n < 1000; n += 1) {
    const [a, b, c] = [Math.floor(n / 100), Math.floor(n / 10) % 10, n % 10];
    const isRun = (b - a === 1 && c - b === 1) || (a - b === 1 && b - c === 1);
    if (a !== b && b !== c && a !== c && !isRun) plain.push(n);
  }
  const order = shuffled(plain, seededRandom(seed));
  const codes: number[] = [];
  for (const space of [9, 0])
    for (const n of order) {
      if (codes.length === count) break;
      if (codes.every((c) => Math.abs(c - n) > space)) codes.push(n);
    }
  return codes.map(String);
}
