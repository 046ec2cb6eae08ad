import { sql } from 'drizzle-orm';
import type { TastedBatch } from '@wunsch/contract';
import { recipeFigures } from '@wunsch/core/recipe';
import { acidLeft, roastDose } from '@wunsch/core/roast';
import type { Db } from '../../db/database.ts';
import { ingredient, recipe } from '../../db/schema/index.ts';
import { loadImpressions } from '../../views/impressions.ts';
import { loadRefiningHours } from '../../views/refiningHours.ts';
import { MADE_NOW } from '../recipe/index.ts';
import { beanReadings, loadRoasts } from '../roast/index.ts';

/** Latest batches looked at, and roasts whose readings are read for their dose. */
const MOST = 1000;
const MOST_ROASTS = 60;

interface Row {
  batchId: string;
  lotId: string;
  recipeId: string | null;
  code: string;
  lotName: string;
  bar: TastedBatch['bar'];
  kind: string;
  madeAt: string | null;
  bestBefore: string | null;
  bars: number;
  gritUm: number | null;
}

/** Tasted batches with how they were made, the newest first: cards of their own pages, and first impressions of opened sessions. */
export async function loadTastedBatches(db: Db): Promise<TastedBatch[]> {
  const said = await loadImpressions(db, null);
  const result = await db.execute(sql`
    select b.id as "batchId", b.lot_id as "lotId", b.recipe_id as "recipeId", b.code, l.name as "lotName",
      case when r.id is null then null else json_build_object('recipe', coalesce(n.name, r.name), 'lotId', l.id) end as bar, coalesce(r.kind, 'dark') as kind,
      m.made as "madeAt", m.keeps as "bestBefore", coalesce(p.bars, 0)::int as bars, g.um::float8 as "gritUm"
    from (select * from batch where state <> 'void' order by started_at desc limit ${MOST}) b
    join lot l on l.id = b.lot_id
    left join recipe r on r.id = b.recipe_id
    left join ${MADE_NOW} n on n.id = r.id
    cross join lateral (
      select to_char(max(s.ended_at) at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"') as made,
        max(s.details->>'bestBefore') as keeps from step s
      where s.batch_id = b.id and s.kind = 'mould' and s.status = 'closed' and not s.voided
    ) m
    cross join lateral (
      select sum(x.count) as bars from parcel x where x.batch_id = b.id and x.material = 'bars' and x.remaining_mg > 0
    ) p
    left join lateral (
      select (o.data->>'um')::float8 as um from observation o
      where o.batch_id = b.id and o.data->>'kind' = 'grit' and o.data->>'um' is not null and not o.voided and o.replaced_by is null
      order by o.at desc limit 1
    ) g on true
    order by b.started_at desc`);
  const rows = (result as unknown as { rows: Row[] }).rows.filter((r) => said.has(r.batchId));
  const hours = await loadRefiningHours(
    db,
    rows.map((r) => r.batchId),
  );
  const doses = await dosesByBatch(db);
  const sugars = await sugarByRecipe(db);
  return rows.map(({ recipeId, ...facts }) => {
    const roasted = doses.get(facts.batchId);
    return {
      ...facts,
      hours: hours.get(facts.batchId) ?? null,
      roastDose: roasted?.dose ?? null,
      acidLeft: roasted?.acidLeft ?? null,
      sugar: (recipeId === null ? null : sugars.get(recipeId)) ?? null,
      cards: said.get(facts.batchId)!,
    };
  });
}

/** Sugar of each recipe, % of the whole. */
async function sugarByRecipe(db: Db): Promise<Map<string, number>> {
  const shelf = new Map((await db.select().from(ingredient)).map((i) => [i.id, i]));
  const recipes = await db.select({ id: recipe.id, lines: recipe.lines }).from(recipe);
  return new Map(
    recipes.flatMap(({ id, lines }) => {
      const known = lines.flatMap(({ ingredientId, massMg }) => {
        const found = shelf.get(ingredientId);
        return found ? [{ ingredient: found, massMg }] : [];
      });
      return known.length === lines.length && known.length > 0 ? [[id, recipeFigures(known).sugar]] : [];
    }),
  );
}

/** Roast dose of the latest batches, and the acid it left: the mean over their loads, from the beans’ own readings. */
async function dosesByBatch(db: Db): Promise<Map<string, { dose: number; acidLeft: number }>> {
  const sums = new Map<string, { sum: number; acid: number; loads: number }>();
  for (const load of await loadRoasts(db, { limit: MOST_ROASTS, width: 120 })) {
    const { step } = load;
    const readings = beanReadings(load);
    if (!step.batchId || !readings) continue;
    const before = sums.get(step.batchId) ?? { sum: 0, acid: 0, loads: 0 };
    sums.set(step.batchId, {
      sum: before.sum + roastDose(readings),
      acid: before.acid + acidLeft(readings),
      loads: before.loads + 1,
    });
  }
  return new Map(
    [...sums].map(([id, { sum, acid, loads }]) => [id, { dose: sum / loads, acidLeft: acid / loads }]),
  );
}
