import { asc, sql, type SQL } from 'drizzle-orm';
import type { IngredientRecord } from '@wunsch/contract';
import type { Db } from '../../db/database.ts';
import { rowsOf } from '../../db/raw.ts';
import { ingredient } from '../../db/schema/index.ts';

/**
 * What is left of the count on the shelf, mg, as SQL over a row of the ingredients: what has been weighed in since it was counted, from no delivery, is gone.
 * A weight that was corrected counts by when it was first weighed. Null where nobody keeps count; where an older release was told, what it was told.
 *
 * @param row the name of the row in the query
 */
export function shelfLeft(row: string): SQL {
  const i = sql.raw(row);
  return sql`(case when ${i}.stock_mg is not null then greatest(0, ${i}.stock_mg - coalesce((
    select sum(m.mass_mg) from movement m
    where m.ingredient_id = ${i}.id and m.parcel_id is null and m.direction = 'in' and m.replaced_by is null and not m.voided
      and m.seq > ${i}.stock_seq
      and (m.replaces is null or (
        with recursive earlier(replaces, seq) as (
          select m.replaces, m.seq
          union all select p.replaces, p.seq from earlier e join movement p on p.id = e.replaces)
        select min(e.seq) from earlier e) > ${i}.stock_seq)), 0)) end)`;
}

/**
 * What is left of the deliveries of an ingredient, mg, as SQL over a row of the ingredients; what is set aside is not there. Null where none has come.
 *
 * @param row the name of the row in the query
 */
export function deliveredLeft(row: string): SQL {
  const i = sql.raw(row);
  return sql`(select sum(case when q.on_hold then 0 else q.remaining_mg end) from supply u join parcel q on q.id = u.parcel_id
    where u.ingredient_id = ${i}.id)`;
}

/**
 * What a kg of an ingredient costs now, minor units, as SQL over a row of the ingredients: as the delivery it is taken from next, or the last one when all
 * are used up; its own price where none had one.
 *
 * @param row the name of the row in the query
 */
export function priceNow(row: string): SQL {
  const i = sql.raw(row);
  return sql`coalesce((select u.price_per_kg from supply u join parcel q on q.id = u.parcel_id
    where u.ingredient_id = ${i}.id and u.price_per_kg > 0
    order by q.remaining_mg > 0 desc,
      case when q.remaining_mg > 0 then q.on_hold end, case when q.remaining_mg > 0 then u.best_before end,
      case when q.remaining_mg > 0 then u.received_on end, case when q.remaining_mg > 0 then u.id end,
      u.received_on desc, u.created_at desc limit 1), ${i}.price_per_kg)`;
}

/** Ingredients by name, with what there is of each. */
export async function loadIngredients(db: Db): Promise<IngredientRecord[]> {
  const rows = await db.select().from(ingredient).orderBy(asc(ingredient.name), asc(ingredient.id));
  const there = rowsOf<{
    id: string;
    shelf: string | number | null;
    delivered: string | number | null;
    keeps: string | null;
    price: number;
  }>(
    await db.execute(sql`
      select i.id, ${shelfLeft('i')} as shelf, ${deliveredLeft('i')} as delivered,
        (select min(u.best_before)::text from supply u join parcel q on q.id = u.parcel_id
          where u.ingredient_id = i.id and q.remaining_mg > 0 and not q.on_hold) as keeps,
        ${priceNow('i')}::float8 as price
      from ingredient i`),
  );
  const of = new Map(there.map((t) => [t.id, t]));
  return rows.map(({ stockSeq: _, ...row }) => {
    const { shelf = null, delivered = null, keeps = null, price = row.pricePerKg } = of.get(row.id) ?? {};
    const shelfMg = shelf === null ? null : Number(shelf);
    return {
      ...row,
      shelfMg,
      onHandMg: shelfMg === null && delivered === null ? null : (shelfMg ?? 0) + Number(delivered ?? 0),
      nextBestBefore: keeps,
      priceNow: price,
    };
  });
}
