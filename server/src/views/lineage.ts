import { sql } from 'drizzle-orm';
import type { LineageGraph, LineageLine, LineageParcel, Material } from '@wunsch/core/ledger';
import type { Db } from '../db/database.ts';
import { rowsOf, uuids } from '../db/raw.ts';
import { allergensOf, readSheet } from './stored.ts';

type LineRow = [
  stepId: string,
  direction: 'i' | 'o',
  parcelId: string | null,
  massMg: number,
  material: Material | null,
  ingredientId: string | null,
  pricePerKg: number | null,
];

type ParcelRow = [
  id: string,
  stepId: string,
  material: Material,
  batchId: string | null,
  lotId: string | null,
  lotName: string | null,
  pricePerKg: number | null,
  isFree: true | null,
  allergens: string[] | null,
  sheet: unknown,
];

interface Found {
  lines: LineRow[] | null;
  parcels: ParcelRow[] | null;
  steps: [id: string, kind: 'leave' | null, status: 'open' | null][] | null;
  ingredients: Record<string, string[] | null> | null;
}

/**
 * Everything some parcels were made from (`back`), or went into (`forward`): any depth, through rework and mixed lots, in one
 * recursive query along the ledger's own lines. The core's lineage functions read the graph. Lookups are held to the indexes (`offset 0`) and
 * the answer comes as lists, as for a trace.
 *
 * @param stepIds steps to begin from beside what brought the parcels forth, such as open ones that nothing has come out of
 */
export async function loadLineage(
  db: Db,
  parcelIds: readonly string[],
  direction: 'back' | 'forward',
  stepIds: readonly string[] = [],
): Promise<LineageGraph> {
  const parcels = new Map<string, LineageParcel>();
  const [leaves, open] = [new Set<string>(), new Set<string>()];
  const lines = new Map<string, LineageLine[]>();
  if (parcelIds.length === 0 && stepIds.length === 0) return { parcels, lines, leaves, open };
  const inForce = sql`m.replaced_by is null and not m.voided`;
  const next =
    direction === 'back'
      ? sql`select p.step_id from movement m join parcel p on p.id = m.parcel_id
          where m.step_id = r.step_id and m.direction = 'in' and ${inForce} offset 0`
      : sql`select n.step_id from movement m
          join movement n on n.parcel_id = m.parcel_id and n.direction = 'in' and n.replaced_by is null and not n.voided
          where m.step_id = r.step_id and m.direction = 'out' and ${inForce} offset 0`;
  const [found] = rowsOf<Found>(
    await db.execute(sql`
      with recursive reached(step_id) as (
        ${stepIds.length > 0 ? sql`select unnest(${uuids(stepIds)}) union` : sql``}
        select p.step_id from parcel p where p.id = any(${uuids(parcelIds)})
        union select x.step_id from reached r cross join lateral (${next}) x),
      line as materialized (
        select l.* from reached r cross join lateral (
          select m.step_id, m.direction, m.parcel_id, m.mass_mg, m.material, m.ingredient_id, m.price_per_kg
          from movement m where m.step_id = r.step_id and m.direction <> 'loss' and ${inForce} offset 0) l)
      select
        (select json_agg(json_build_array(l.step_id, left(l.direction, 1), l.parcel_id, l.mass_mg, l.material, l.ingredient_id,
            l.price_per_kg)) from line l) as lines,
        (select json_agg(json_build_array(p.id, p.step_id, p.material, p.batch_id, l.id, l.name,
            coalesce(u.price_per_kg, l.price_per_kg + case when l.arrived_mg > 0 then l.freight / (l.arrived_mg / 1e6) else 0 end),
            case when l.is_free then true end, coalesce(u.allergens, case when u.id is not null then i.allergens end), l.sheet))
          from (select distinct parcel_id from line where parcel_id is not null) x
          cross join lateral (select * from parcel p where p.id = x.parcel_id offset 0) p
          left join lot l on l.parcel_id = p.id and not l.voided
          left join supply u on u.parcel_id = p.id left join ingredient i on i.id = u.ingredient_id) as parcels,
        (select json_agg(json_build_array(s.id, case when s.kind = 'leave' then s.kind end, case when s.status = 'open' then s.status end))
          from reached r cross join lateral (
          select s.id, s.kind, s.status from step s where s.id = r.step_id and (s.kind = 'leave' or s.status = 'open') offset 0) s) as steps,
        (select json_object_agg(i.id, i.allergens) from ingredient i) as ingredients`),
  );
  const told = new Map<string, string[] | null>();
  for (const row of found?.parcels ?? []) {
    const [id, stepId, material, batchId, lotId, lotName, pricePerKg, isFree, declared, sheet] = row;
    const allergens = declared ?? (sheet === null ? null : allergensOf(readSheet(sheet)));
    told.set(id, allergens);
    parcels.set(id, {
      id,
      stepId,
      material,
      lotId,
      lotName,
      batchId,
      pricePerKg,
      ...(isFree && { isFree }),
      allergens: allergens ?? [],
    });
  }
  for (const [stepId, way, parcelId, massMg, material, ingredientId, pricePerKg] of found?.lines ?? []) {
    const usual = ingredientId === null ? null : (found?.ingredients?.[ingredientId] ?? null);
    const line: LineageLine = {
      stepId,
      direction: way === 'i' ? 'in' : 'out',
      parcelId,
      massMg,
      material,
      ingredientId,
      pricePerKg,
      // What a delivery declares stands for the ingredient's usual allergens.
      allergens: (parcelId === null ? null : told.get(parcelId)) ?? usual ?? [],
    };
    const mine = lines.get(stepId);
    if (mine) mine.push(line);
    else lines.set(stepId, [line]);
  }
  for (const [id, kind, status] of found?.steps ?? []) {
    if (kind) leaves.add(id);
    if (status) open.add(id);
  }
  return { parcels, lines, leaves, open };
}
