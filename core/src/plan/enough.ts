import type { Needs } from './needs.ts';
import { chanceOf, joined, onItsWay, toBeMade } from './pool.ts';
import type { PlanRoom } from './room.ts';
import { orderOf } from './orders.ts';

/**
 * How surely the batches an order waits for give all its bars, 0–1, by the order’s id: what was promised first is served first, and what one batch
 * lacks another one has to spare where somebody has bars of both. Batches come out well or badly each for itself. Of bars nothing can be made from
 * it says nothing, nor of what only fills the shelf.
 */
export function enoughBars(
  room: Pick<PlanRoom, 'batches'>,
  needs: Pick<Needs, 'lines' | 'supplies' | 'batches'>,
): Map<string, number> {
  const alone = [...room.batches.map(onItsWay), ...needs.batches.map(toBeMade)];
  const pools = new Map(alone.map((pool) => [pool.batches[0]!, pool]));
  /** For each order the batch it was last told of, and how surely there was enough. */
  const told = new Map<string, { batch: string; chance: number }[]>();
  for (const line of needs.lines) {
    if (line.kind === 'stock') continue;
    const mine = needs.supplies.filter((s) => s.lineId === line.id && s.batch !== null);
    const pool = joined(mine.map((s) => pools.get(s.batch!)!));
    const ofOrder = told.get(orderOf(line)) ?? [];
    told.set(orderOf(line), ofOrder);
    if (!pool) continue;
    pool.promised += mine.reduce((sum, s) => sum + (s.spare ? 0 : s.bars), 0);
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
