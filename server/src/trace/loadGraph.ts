import { sql } from 'drizzle-orm';
import type { TraceGraph, TraceLine, TraceParcel, TraceStep } from '@wunsch/core/trace';
import type { Db } from '../db/database.ts';
import { rowsOf, uuids } from '../db/raw.ts';

/** Steps from which a trace sets out: those that made the parcels, or took them in. */
export interface Seeds {
  parcelIds: readonly string[];
  stepIds: readonly string[];
  ingredientIds: readonly string[];
}

type LineRow = [
  stepId: string,
  direction: 'i' | 'o' | 'l',
  parcelId: string | null,
  ingredientId: string | null,
  ingredient: string | null,
  massMg: number,
  count: number | null,
  material: TraceLine['material'],
  reason: string | null,
];

type StepRow = [
  id: string,
  kind: TraceStep['kind'],
  station: TraceStep['station'],
  isOpen: boolean,
  batchId: string | null,
  machineId: string | null,
  startedMs: number,
  endedMs: number | null,
  by: string,
  destination: string | null,
  customerId: string | null,
];

interface Found {
  lines: LineRow[] | null;
  steps: StepRow[] | null;
  parcels: TraceParcel[] | null;
  batches: Record<string, string> | null;
  machines: Record<string, string> | null;
}

const DIRECTIONS = { i: 'in', o: 'out', l: 'loss' } as const;

const inForce = (m: 'm' | 'm2') => sql.raw(`${m}.replaced_by is null and not ${m}.voided`);

/**
 * Everything that hangs together with some seeds, one way and any depth, in one recursive query along the ledger’s lines: steps with their
 * batch, machine and customer, every line in force, and the parcels they name. It comes as a few lists, since ten years of rows one by one
 * take longer to carry than to find; a parcel that is used up is told by the line that made it. Each lookup is held to the index of its table
 * (`offset 0`): the planner cannot know how far a trace will go, and would rather read all of the ledger each time.
 */
export async function loadGraph(db: Db, seeds: Seeds, way: 'forward' | 'back'): Promise<TraceGraph> {
  const parts = [
    sql`select p.step_id from parcel p where p.id = any(${uuids(seeds.parcelIds)})`,
    sql`select unnest(${uuids(seeds.stepIds)})`,
  ];
  if (seeds.ingredientIds.length > 0)
    parts.push(sql`select m.step_id from movement m where m.ingredient_id = any(${uuids(seeds.ingredientIds)})
      and m.parcel_id is null and m.direction = 'in' and ${inForce('m')}`);
  const next =
    way === 'forward'
      ? sql`select m2.step_id from movement m join movement m2 on m2.parcel_id = m.parcel_id and ${inForce('m2')}
          where m.step_id = r.step_id and m.direction = 'out' and ${inForce('m')} offset 0`
      : sql`select p.step_id from movement m join parcel p on p.id = m.parcel_id
          where m.step_id = r.step_id and m.direction = 'in' and ${inForce('m')} offset 0`;
  // Where only some of a making’s outputs are asked for, its other outputs are followed too; their shares say that they hold nothing.
  const [found] = rowsOf<Found>(
    await db.execute(sql`
      with recursive reached(step_id) as (
        ${sql.join(parts, sql` union `)}
        union select x.step_id from reached r cross join lateral (${next}) x),
      line as materialized (
        select l.* from reached r cross join lateral (
          select m.step_id, m.direction, m.parcel_id, m.ingredient_id, m.label, m.mass_mg, m.count, m.material, m.reason
          from movement m where m.step_id = r.step_id and ${inForce('m')} offset 0) l),
      at as materialized (
        select s.* from reached r cross join lateral (
          select * from step s where s.id = r.step_id and not s.voided offset 0) s)
      select
        (select json_agg(json_build_array(l.step_id, left(l.direction, 1), l.parcel_id, l.ingredient_id,
            case when l.parcel_id is null and l.direction = 'in' then l.label end, l.mass_mg, l.count, l.material, l.reason))
          from line l) as lines,
        (select json_agg(json_build_array(s.id, s.kind, s.station, s.status = 'open', s.batch_id, s.machine_id,
            (extract(epoch from s.started_at) * 1000)::bigint, (extract(epoch from s.ended_at) * 1000)::bigint, s.by,
            case when s.kind = 'leave' then s.details ->> 'destination' end,
            case when s.kind = 'leave' then s.details ->> 'customerId' end)) from at s) as steps,
        (select json_agg(json_build_object('id', p.id, 'stepId', p.step_id, 'material', p.material, 'label', p.label,
            'lotId', l.id, 'lotCode', l.code, 'supplyName', u.name, 'batchId', p.batch_id, 'batchCode', b.code,
            'remainingMg', p.remaining_mg, 'count', p.count, 'place', p.place, 'onHold', p.on_hold))
          from (
            select y.* from (select distinct parcel_id from line where parcel_id is not null) x
            cross join lateral (select * from parcel p where p.id = x.parcel_id offset 0) y
            where y.remaining_mg > 0 or y.batch_id is null or y.id = any(${uuids(seeds.parcelIds)})
              or not exists (select 1 from at where at.id = y.step_id)
          ) p
          left join batch b on b.id = p.batch_id left join lot l on l.parcel_id = p.id and not l.voided
          left join supply u on u.parcel_id = p.id) as parcels,
        (select json_object_agg(b.id, b.code) from batch b where b.id in (select batch_id from at)) as batches,
        (select json_object_agg(a.id, a.name) from machine a) as machines`),
  );
  const lines = new Map<string, TraceLine[]>();
  const steps = new Map<string, TraceStep>();
  const parcels = new Map((found?.parcels ?? []).map((p) => [p.id, p]));
  const iso = (ms: number) => new Date(ms).toISOString();
  for (const row of (found?.steps ?? []).sort((a, b) => a[6] - b[6] || a[0].localeCompare(b[0]))) {
    const [id, kind, station, isOpen, batchId, machineId, startedMs, endedMs, by, destination, customerId] =
      row;
    steps.set(id, {
      id,
      kind,
      station,
      isOpen,
      batchId,
      batchCode: batchId === null ? null : (found?.batches?.[batchId] ?? null),
      machineId,
      machine: machineId === null ? null : (found?.machines?.[machineId] ?? null),
      startedAt: iso(startedMs),
      endedAt: endedMs === null ? null : iso(endedMs),
      by,
      destination,
      customerId,
    });
  }
  for (const [
    stepId,
    way_,
    parcelId,
    ingredientId,
    ingredient,
    massMg,
    count,
    material,
    reason,
  ] of found?.lines ?? []) {
    const direction = DIRECTIONS[way_];
    const line = { stepId, direction, parcelId, ingredientId, ingredient, massMg, count, material, reason };
    const mine = lines.get(stepId);
    if (mine) mine.push(line);
    else lines.set(stepId, [line]);
    if (direction !== 'out' || !parcelId || parcels.has(parcelId)) continue;
    const step = steps.get(stepId);
    parcels.set(parcelId, {
      id: parcelId,
      stepId,
      material: material ?? 'charge',
      label: '',
      lotId: null,
      lotCode: null,
      supplyName: null,
      batchId: step?.batchId ?? null,
      batchCode: step?.batchCode ?? null,
      remainingMg: 0,
      count: count === null ? null : 0,
      place: '',
      onHold: false,
    });
  }
  return { lines, steps, parcels };
}
