import { sql } from 'drizzle-orm';
import type { BatchCost } from '@wunsch/contract';
import { addCosts, noCosts } from '@wunsch/core/cost';
import { goneAs } from '@wunsch/core/trace';
import type { Db } from '../db/database.ts';
import { instantOf, rowsOf, uuids } from '../db/raw.ts';
import { loadLineage } from '../views/lineage.ts';
import { loadSettings } from '../views/settings.ts';
import { addEnd, endOf, loadBars } from './bars.ts';
import { loadFlow, unpricedNames } from './flow.ts';

interface BatchRow {
  id: string;
  code: string;
  lotCode: string;
  recipeName: string | null;
  startedAt: string;
  barMg: string | number | null;
}

/** What the bars of the newest batches cost and fetched; of those named, or begun in a stretch of time, where that is said. */
export async function loadCosts(
  db: Db,
  {
    batchIds,
    limit = 80,
    startedFrom,
    startedBefore,
  }: { batchIds?: readonly string[]; limit?: number; startedFrom?: string; startedBefore?: string } = {},
): Promise<BatchCost[]> {
  const batches = rowsOf<BatchRow>(
    await db.execute(sql`
      select b.id, b.code, l.code as "lotCode", r.name as "recipeName", ${instantOf('b.started_at')} as "startedAt", b.bar_mg as "barMg"
      from batch b join lot l on l.id = b.lot_id left join recipe r on r.id = b.recipe_id
      where b.state in ('open', 'finished') ${batchIds ? sql`and b.id = any(${uuids(batchIds)})` : sql``}
        ${startedFrom ? sql`and b.started_at >= ${startedFrom}` : sql``} ${startedBefore ? sql`and b.started_at < ${startedBefore}` : sql``}
        and exists (select 1 from parcel p where p.batch_id = b.id and p.material = 'bars')
      order by b.started_at desc, b.id limit ${limit}`),
  );
  if (batches.length === 0) return [];
  const bars = await loadBars(
    db,
    batches.map((b) => b.id),
  );
  const graph = await loadLineage(db, [...new Set(bars.map((b) => b.parcelId))], 'back');
  const settings = await loadSettings(db);
  const { unit } = await loadFlow(db, graph, settings);
  const unpriced = await unpricedNames(db, graph);
  return batches.map((b): BatchCost => {
    const mine = bars.filter((x) => x.batchId === b.id);
    const sum = noCosts();
    const channels = new Map<string, BatchCost['channels'][number]>();
    let [count, massMg, unpaid, onHand] = [0, 0, 0, 0];
    for (const x of mine) {
      if (x.direction === 'here') onHand += Number(x.count ?? 0);
      const end = endOf(x);
      if (!end) continue;
      const { bars: n } = end;
      count += n;
      massMg += end.massMg;
      addEnd(sum, end, unit, settings.packagingPerBar);
      if (x.kind !== 'leave') {
        if (x.direction !== 'here') unpaid += n;
        continue;
      }
      const went = goneAs(x.destination ?? '', x.channel);
      if (went === 'given' || went === 'broken') {
        unpaid += n;
        continue;
      }
      const channel = x.channel ?? 'counter';
      const of = channels.get(channel) ?? { channel, bars: 0, fetched: 0 };
      channels.set(channel, of);
      of.bars += n;
      of.fetched +=
        x.price !== null
          ? x.price * n
          : ((x.fetched ?? 0) * n) / Math.max(1, Number(x.stepCount ?? Math.abs(n)));
    }
    const bar = noCosts();
    if (count > 0) addCosts(bar, sum, 1 / count);
    return {
      batchId: b.id,
      code: b.code,
      lotCode: b.lotCode,
      recipeName: b.recipeName,
      startedAt: b.startedAt,
      barMg: count > 0 ? massMg / count : Number(b.barMg ?? settings.barMg),
      bars: count,
      bar,
      unpriced: unpriced([...new Set(mine.map((x) => x.parcelId))]),
      channels: [...channels.values()].filter((c) => c.bars > 0).sort((a, z) => z.fetched - a.fetched),
      unpaid: Math.max(0, unpaid),
      onHand,
    };
  });
}
