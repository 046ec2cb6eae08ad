import { sql } from 'drizzle-orm';
import type { LineageGraph, LineageLine, LineageParcel, Material } from '@wunsch/core/ledger';
import type { Db } from '../db/database.ts';

interface Row {
  step_id: string;
  direction: 'in' | 'out' | null;
  parcel_id: string | null;
  mass_mg: string | number | null;
  material: Material | null;
  ingredient_id: string | null;
  price_per_kg: number | null;
  leaves: boolean;
  line_allergens: string[] | null;
  p_step_id: string | null;
  p_material: Material | null;
  p_batch_id: string | null;
  p_lot_id: string | null;
  p_lot_name: string | null;
  p_price: number | null;
  p_allergens: string[] | null;
}

/**
 * Everything some parcels were made from (`back`), or went into (`forward`): any depth, through rework and mixed lots, in one
 * recursive query along the ledger's own lines. The core's lineage functions read the graph.
 */
export async function loadLineage(
  db: Db,
  parcelIds: readonly string[],
  direction: 'back' | 'forward',
): Promise<LineageGraph> {
  const parcels = new Map<string, LineageParcel>();
  const leaves = new Set<string>();
  const lines = new Map<string, LineageLine[]>();
  if (parcelIds.length === 0) return { parcels, lines };
  const roots = sql`array[${sql.join(
    parcelIds.map((id) => sql`${id}::uuid`),
    sql`, `,
  )}]`;
  const inForce = sql`m.replaced_by is null and not m.voided`;
  const steps =
    direction === 'back'
      ? sql`reached(step_id) as (
          select p.step_id from parcel p where p.id = any(${roots})
          union
          select p.step_id from reached r
            join movement m on m.step_id = r.step_id and m.direction = 'in' and ${inForce}
            join parcel p on p.id = m.parcel_id)`
      : sql`reached(step_id) as (
          select p.step_id from parcel p where p.id = any(${roots})
          union
          select m2.step_id from reached r
            join movement m on m.step_id = r.step_id and m.direction = 'out' and ${inForce}
            join movement m2 on m2.parcel_id = m.parcel_id and m2.direction = 'in' and m2.replaced_by is null and not m2.voided)`;
  const result = await db.execute(sql`
    with recursive ${steps}
    select r.step_id, m.direction, m.parcel_id, m.mass_mg, m.material, m.ingredient_id, m.price_per_kg, s.kind = 'leave' as leaves,
      i.allergens as line_allergens, p.step_id as p_step_id, p.material as p_material, p.batch_id as p_batch_id,
      l.id as p_lot_id, l.name as p_lot_name,
      coalesce(u.price_per_kg, l.price_per_kg + case when l.arrived_mg > 0 then l.freight / (l.arrived_mg / 1e6) else 0 end) as p_price,
      coalesce(u.allergens, case when u.id is not null then i.allergens end, l.sheet->'allergens') as p_allergens
    from reached r
    join step s on s.id = r.step_id
    join movement m on m.step_id = r.step_id and m.direction <> 'loss' and ${inForce}
    left join ingredient i on i.id = m.ingredient_id
    left join parcel p on p.id = m.parcel_id
    left join lot l on l.parcel_id = p.id and not l.voided
    left join supply u on u.parcel_id = p.id`);
  for (const row of (result as unknown as { rows: Row[] }).rows) {
    if (row.leaves) leaves.add(row.step_id);
    const mine = lines.get(row.step_id) ?? [];
    lines.set(row.step_id, mine);
    mine.push({
      stepId: row.step_id,
      direction: row.direction!,
      parcelId: row.parcel_id,
      massMg: Number(row.mass_mg),
      material: row.material,
      ingredientId: row.ingredient_id,
      pricePerKg: row.price_per_kg,
      // What a delivery declares stands for the ingredient's usual allergens.
      allergens: row.p_allergens ?? row.line_allergens ?? [],
    });
    if (row.parcel_id && row.p_step_id)
      parcels.set(row.parcel_id, {
        id: row.parcel_id,
        stepId: row.p_step_id,
        material: row.p_material!,
        lotId: row.p_lot_id,
        lotName: row.p_lot_name,
        batchId: row.p_batch_id,
        pricePerKg: row.p_price,
        allergens: row.p_allergens ?? [],
      });
  }
  return { parcels, lines, leaves };
}
