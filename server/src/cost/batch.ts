import { sql } from 'drizzle-orm';
import type { BatchSpending } from '@wunsch/contract';
import { addCosts, noCosts, spentOnBatch, type Drawn } from '@wunsch/core/cost';
import type { Db } from '../db/database.ts';
import { rowsOf } from '../db/raw.ts';
import { notFound } from '../http/problem.ts';
import { priceNow } from '../stations/recipe/index.ts';
import { loadLineage } from '../views/lineage.ts';
import { loadSettings } from '../views/settings.ts';
import { addEnd, endOf, isWrapped, loadBars } from './bars.ts';
import { loadFlow, unpricedNames } from './flow.ts';

/** A batch’s own steps and parcels, and what others took of it. */
interface Own {
  steps: { id: string; minutes: number | null }[] | null;
  parcels: string[] | null;
  drawn: Drawn[] | null;
}

/** What a batch’s recipe adds to its own beans, minor units for each kg of it; null without a recipe. */
async function addedPerKg(db: Db, batchId: string): Promise<number | null> {
  const [of] = rowsOf<{ perKg: number | null }>(
    await db.execute(sql`
      select (sum(case when i.cacao = 'bean' then 0 else l.mass * ${priceNow('i')} end) / nullif(sum(l.mass), 0))::float8 as "perKg"
      from batch b join recipe r on r.id = b.recipe_id
      cross join lateral (
        select (line ->> 'ingredientId')::uuid as id, (line ->> 'massMg')::float8 as mass from jsonb_array_elements(r.lines) as line
      ) l
      join ingredient i on i.id = l.id
      where b.id = ${batchId}::uuid`),
  );
  return of?.perKg ?? null;
}

/**
 * What has been spent on one batch so far, along the ledger.
 *
 * @throws Problem 404 where there is no such batch
 */
export async function loadSpending(db: Db, batchId: string): Promise<BatchSpending> {
  const [own] = rowsOf<Own>(
    await db.execute(sql`
      select
        (select json_agg(json_build_object('id', s.id, 'minutes', s.hands_on_minutes)) from step s
          where s.batch_id = b.id and not s.voided) as steps,
        (select json_agg(p.id) from parcel p where p.batch_id = b.id) as parcels,
        (select json_agg(json_build_object('parcelId', p.id, 'massMg', m.mass_mg)) from parcel p
          join movement m on m.parcel_id = p.id and m.direction = 'in' and m.replaced_by is null and not m.voided
          join step s on s.id = m.step_id
          where p.batch_id = b.id and p.material not in ('bars', 'blocks') and (s.batch_id is distinct from b.id or s.kind = 'leave')) as drawn
      from batch b where b.id = ${batchId}::uuid`),
  );
  if (!own) throw notFound('batch', batchId);
  const settings = await loadSettings(db);
  const stepIds = (own.steps ?? []).map((s) => s.id);
  const graph = await loadLineage(db, own.parcels ?? [], 'back', stepIds);
  const flow = await loadFlow(db, graph, settings);
  const unpriced = await unpricedNames(db, graph);
  const [sum, bar] = [noCosts(), noCosts()];
  let [bars, massMg, wrapped] = [0, 0, 0];
  for (const end of (await loadBars(db, [batchId])).flatMap((row) => endOf(row) ?? [])) {
    bars += end.bars;
    massMg += end.massMg;
    if (isWrapped(end, flow.unit)) wrapped += end.bars;
    addEnd(sum, end, flow.unit, settings.packagingPerBar);
  }
  if (bars > 0) addCosts(bar, sum, 1 / bars);
  return {
    batchId,
    spent: spentOnBatch(graph, flow, batchId, stepIds, own.drawn ?? []),
    minutes: (own.steps ?? []).reduce((m, s) => m + (s.minutes ?? 0), 0),
    bars,
    massMg,
    wrapped,
    bar: bars > 0 ? bar : null,
    unpriced: unpriced([...graph.parcels.values()].flatMap((p) => (p.batchId === batchId ? [p.id] : []))),
    usual: {
      packagingPerBar: settings.packagingPerBar,
      overheadPerKg: settings.overheadPerKg,
      ingredientsPerKg: await addedPerKg(db, batchId),
    },
  };
}
