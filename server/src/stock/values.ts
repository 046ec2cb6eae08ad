import { sql } from 'drizzle-orm';
import type { StockValues } from '@wunsch/contract';
import { costInside, totalCost, unpricedBehind, type Costs } from '@wunsch/core/cost';
import { BY_PRODUCTS, type Material } from '@wunsch/core/ledger';
import type { Db } from '../db/database.ts';
import { instantOf, rowsOf } from '../db/raw.ts';
import { loadFlow } from '../cost/flow.ts';
import { loadLineage } from '../views/lineage.ts';
import { loadSettings } from '../views/settings.ts';
import { ON_HAND } from './views.ts';

type InsideRow = Omit<StockValues['inside'][number], 'value' | 'materials' | 'unpriced' | 'massMg'> & {
  massMg: string | number;
};

const materialsOf = (c: Costs): number => c.beans + c.ingredients + c.packaging + c.credit;

/** What everything on hand and everything in the machines has cost so far. */
export async function loadStockValues(db: Db): Promise<StockValues> {
  const parcels = rowsOf<{ id: string; material: Material; remainingMg: string | number }>(
    await db.execute(sql`select p.id, p.material, p.remaining_mg as "remainingMg" ${ON_HAND}`),
  );
  const inside = rowsOf<InsideRow>(
    await db.execute(sql`
      select s.id as "stepId", s.station, a.name as machine, b.id as "batchId", b.code as "batchCode",
        ${instantOf('s.started_at')} as since,
        sum(case when m.direction = 'in' then m.mass_mg else -m.mass_mg end) as "massMg"
      from step s join batch b on b.id = s.batch_id join movement m on m.step_id = s.id and m.replaced_by is null and not m.voided
      left join machine a on a.id = s.machine_id
      where s.status = 'open' and not s.voided and s.kind <> 'receive'
      group by s.id, a.name, b.id
      having sum(case when m.direction = 'in' then m.mass_mg else -m.mass_mg end) > 0
      order by s.started_at, s.id`),
  );
  const graph = await loadLineage(
    db,
    parcels.map((p) => p.id),
    'back',
    inside.map((s) => s.stepId),
  );
  const flow = await loadFlow(db, graph, await loadSettings(db));
  const unpriced = unpricedBehind(graph);
  const into = (stepId: string) =>
    (graph.lines.get(stepId) ?? []).flatMap((l) => (l.direction === 'in' ? (l.parcelId ?? []) : []));
  return {
    items: parcels.map(({ id, material, remainingMg }) => {
      const unit = flow.unit.get(id)!;
      return {
        parcelId: id,
        value: totalCost(unit) * Number(remainingMg),
        materials: materialsOf(unit) * Number(remainingMg),
        // By-products carry nothing, whatever they came from.
        unpriced: (material === 'rework' || !BY_PRODUCTS.has(material)) && unpriced([id]).length > 0,
      };
    }),
    inside: inside.map((s) => {
      const costs = costInside(graph, flow, s.stepId);
      return {
        ...s,
        massMg: Number(s.massMg),
        value: totalCost(costs),
        materials: materialsOf(costs),
        unpriced: unpriced(into(s.stepId)).length > 0,
      };
    }),
  };
}
