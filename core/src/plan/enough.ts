import { normalCdf, normalQuantile } from '../numerics/index.ts';
import type { Needs } from './needs.ts';
import type { PlanRoom } from './room.ts';
import { orderOf } from './workshop.ts';

/**
 * How surely the batches an order waits for give all its bars, 0–1, by the order’s id: what was promised first is served first, and what one batch
 * lacks another one has to spare where somebody has bars of both. Batches come out well or badly each for itself. Of bars nothing can be made from
 * it says nothing, nor of what only fills the shelf.
 */
export function enoughBars(room: Pick<PlanRoom, 'batches'>, needs: Needs): Map<string, number> {
  const pools = new Map(expectedBars(room, needs).map((pool) => [pool.batches[0]!, pool]));
  /** For each order the batch it was last told of, and how surely there was enough. */
  const told = new Map<string, { batch: string; chance: number }[]>();
  for (const line of needs.lines) {
    if (line.kind === 'stock') continue;
    const mine = needs.supplies.filter((s) => s.lineId === line.id && s.batch !== null);
    const pool = joined(mine.map((s) => pools.get(s.batch!)!));
    const ofOrder = told.get(orderOf(line)) ?? [];
    told.set(orderOf(line), ofOrder);
    if (!pool) continue;
    pool.promised += mine.reduce((sum, s) => sum + s.bars, 0);
    for (const batch of pool.batches) pools.set(batch, pool);
    ofOrder.push({ batch: pool.batches[0]!, chance: chanceOf(pool) });
  }
  return new Map(
    [...told].map(([id, list]) => {
      // Of lines from one pool the last says it of all.
      const last = new Map(list.map(({ batch, chance }) => [pools.get(batch)!, chance]));
      return [id, [...last.values()].reduce((all, chance) => all * chance, 1)];
    }),
  );
}

/** Batches of which bars go to the same people: what is expected of them together, how uncertain that is, and what is promised of it. */
interface Pool {
  batches: string[];
  bars: number;
  variance: number;
  promised: number;
}

function expectedBars(room: Pick<PlanRoom, 'batches'>, needs: Needs): Pool[] {
  const perDeviation = 2 * normalQuantile(0.9);
  const alone = (id: string, bars: number, sd: number): Pool => ({
    batches: [id],
    bars,
    variance: sd ** 2,
    promised: 0,
  });
  return [
    ...room.batches.map(({ id, bars, barsWithin: w }) =>
      alone(id, bars, w ? (w.high - w.low) / perDeviation : 0),
    ),
    ...needs.batches.map(({ key, bars, spread }) => alone(key, bars, bars * spread)),
  ];
}

/** Pools as one; null of none. */
function joined(pools: readonly Pool[]): Pool | null {
  const [first, ...others] = [...new Set(pools)];
  if (!first) return null;
  for (const { batches, bars, variance, promised } of others) {
    first.batches.push(...batches);
    first.bars += bars;
    first.variance += variance;
    first.promised += promised;
  }
  return first;
}

/** Chance that a pool gives what is promised of it; what is expected of each batch is told in whole bars, rounded down. */
const chanceOf = ({ batches, bars, variance, promised }: Pool) =>
  variance > 0
    ? normalCdf((bars + batches.length / 2 - promised) / Math.sqrt(variance))
    : Number(promised <= bars);
