import { sql, type SQL } from 'drizzle-orm';
import type { TraceGraph, TraceLine, TraceParcel, TraceStep } from '@wunsch/core/trace';
import type { Db } from '../db/database.ts';

const rowsOf = <T>(result: unknown): T[] => (result as { rows: T[] }).rows;

const uuids = (ids: readonly string[]): SQL =>
  ids.length === 0
    ? sql`array[]::uuid[]`
    : sql`array[${sql.join(
        ids.map((id) => sql`${id}::uuid`),
        sql`, `,
      )}]`;

const instantOf = (column: string) =>
  sql.raw(`to_char(${column} at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"')`);

/** Steps from which a trace sets out: those that made the parcels, or took them in. */
export interface Seeds {
  parcelIds: readonly string[];
  stepIds: readonly string[];
  ingredientIds: readonly string[];
}

/**
 * Everything that hangs together with some seeds, one way and any depth, in one recursive query along the ledger’s lines: steps with their
 * batch, machine and customer, every line in force, and the parcels they name.
 */
export async function loadGraph(db: Db, seeds: Seeds, way: 'forward' | 'back'): Promise<TraceGraph> {
  const begin = sql`
    select p.step_id from parcel p where p.id = any(${uuids(seeds.parcelIds)})
    union select unnest(${uuids(seeds.stepIds)})
    union select m.step_id from movement m where m.ingredient_id = any(${uuids(seeds.ingredientIds)})
      and m.parcel_id is null and m.direction = 'in' and m.replaced_by is null and not m.voided`;
  const next =
    way === 'forward'
      ? sql`select m2.step_id from reached r
          join movement m on m.step_id = r.step_id and m.direction = 'out' and m.replaced_by is null and not m.voided
          join movement m2 on m2.parcel_id = m.parcel_id and m2.replaced_by is null and not m2.voided`
      : sql`select p.step_id from reached r
          join movement m on m.step_id = r.step_id and m.direction = 'in' and m.replaced_by is null and not m.voided
          join parcel p on p.id = m.parcel_id`;
  // Where only some of a making's outputs are asked for, its other outputs are not followed: the shares see to that.
  const result = await db.execute(sql`
    with recursive reached(step_id) as (${begin} union ${next})
    select m.step_id as "stepId", m.direction, m.parcel_id as "parcelId", m.ingredient_id as "ingredientId", m.mass_mg as "massMg",
      m.count, m.material, m.reason, m.label as ingredient
    from reached r join movement m on m.step_id = r.step_id and m.replaced_by is null and not m.voided`);
  const lines = new Map<string, TraceLine[]>();
  const parcelIds = new Set<string>(seeds.parcelIds);
  for (const row of rowsOf<TraceLine & { massMg: string | number; count: string | number | null }>(result)) {
    const line = {
      ...row,
      massMg: Number(row.massMg),
      count: row.count === null ? null : Number(row.count),
    };
    const mine = lines.get(row.stepId);
    if (mine) mine.push(line);
    else lines.set(row.stepId, [line]);
    if (row.parcelId) parcelIds.add(row.parcelId);
  }
  return {
    lines,
    steps: await loadSteps(db, [...lines.keys()]),
    parcels: await loadParcels(db, [...parcelIds]),
  };
}

async function loadSteps(db: Db, ids: readonly string[]): Promise<Map<string, TraceStep>> {
  const rows = rowsOf<TraceStep>(
    await db.execute(sql`
      select s.id, s.kind, s.station, s.status = 'open' as "isOpen", s.batch_id as "batchId", b.code as "batchCode",
        s.machine_id as "machineId", a.name as machine, ${instantOf('s.started_at')} as "startedAt", ${instantOf('s.ended_at')} as "endedAt",
        s.by, s.details ->> 'destination' as destination, s.details ->> 'customerId' as "customerId",
        s.details ->> 'barCode' as "barCode"
      from step s left join batch b on b.id = s.batch_id left join machine a on a.id = s.machine_id
      where s.id = any(${uuids(ids)}) order by s.started_at, s.id`),
  );
  return new Map(rows.map((r) => [r.id, r]));
}

async function loadParcels(db: Db, ids: readonly string[]): Promise<Map<string, TraceParcel>> {
  const rows = rowsOf<TraceParcel & { remainingMg: string | number }>(
    await db.execute(sql`
      select p.id, p.step_id as "stepId", p.material, p.label, l.id as "lotId", l.code as "lotCode", u.name as "supplyName",
        p.batch_id as "batchId", b.code as "batchCode", p.remaining_mg as "remainingMg", p.count, p.place, p.on_hold as "onHold"
      from parcel p
      left join batch b on b.id = p.batch_id
      left join lot l on l.parcel_id = p.id and not l.voided
      left join supply u on u.parcel_id = p.id
      where p.id = any(${uuids(ids)})`),
  );
  return new Map(rows.map((r) => [r.id, { ...r, remainingMg: Number(r.remainingMg) }]));
}
