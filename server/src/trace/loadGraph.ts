import { sql } from 'drizzle-orm';
import type { TraceGraph, TraceParcel, TraceStep } from '@wunsch/core/trace';
import type { Db } from '../db/database.ts';
import { idsIn, jsonCell, jsonText, rowsOf } from '../db/raw.ts';
import { walk, type WalkedLine } from '../ledger/walk.ts';

/** Steps from which a trace sets out: those that made the parcels, or took them in. */
export interface Seeds {
  parcelIds: readonly string[];
  stepIds: readonly string[];
  ingredientIds: readonly string[];
}

/** Steps as columns, each one text; the words of people are JSON. */
const STEP_COLUMNS = sql.join(
  [
    `string_agg(s.id::text, ',') as ids`,
    `string_agg(s.kind, ',') as kinds`,
    `string_agg(s.station, ',') as stations`,
    `string_agg(case when s.status = 'open' then '1' else '0' end, '') as open`,
    `string_agg(coalesce(s.batch_id::text, ''), ',') as batches`,
    `string_agg(coalesce(s.machine_id::text, ''), ',') as machines`,
    `string_agg((date_part('epoch', s.started_at) * 1000)::int8::text, ',') as started`,
    `string_agg(coalesce((date_part('epoch', s.ended_at) * 1000)::int8::text, ''), ',') as ended`,
    `'[' || string_agg(to_json(array_to_string(coalesce(s.hands, array[s.by]), ', '))::text, ',') || ']' as hands`,
    `'[' || string_agg(case when s.kind = 'leave' then
      json_build_array(s.details ->> 'destination', s.details ->> 'customerId')::text else '0' end, ',') || ']' as went`,
  ].map((column) => sql.raw(column)),
  sql`, `,
);

type StepColumns = Record<
  'kinds' | 'stations' | 'open' | 'batches' | 'machines' | 'started' | 'ended' | 'hands' | 'went',
  string
> & { ids: string | null };

/** A parcel, with its lot, delivery and batch, as a list in JSON. */
const PARCEL = sql`'[' || ${sql.join(
  [
    jsonCell('p.id', true),
    jsonCell('p.step_id', true),
    jsonCell('p.material', true),
    jsonText(`nullif(p.label, '')`),
    jsonCell('l.id', true),
    jsonText('l.code'),
    jsonText('u.name'),
    jsonCell('p.batch_id', true),
    jsonCell('p.remaining_mg', false),
    jsonCell('p.count', false),
    jsonText(`nullif(p.place, '')`),
    jsonCell('p.on_hold', false),
  ],
  sql` || ',' || `,
)} || ']'`;

/** What of a parcel is told. */
const KEPT = sql.raw(
  'p.id, p.step_id, p.material, p.label, p.batch_id, p.remaining_mg, p.count, p.place, p.on_hold',
);

type ParcelCells = [
  id: string,
  stepId: string,
  material: TraceParcel['material'],
  label: string | null,
  lotId: string | null,
  lotCode: string | null,
  supplyName: string | null,
  batchId: string | null,
  remainingMg: number,
  count: number | null,
  place: string | null,
  onHold: boolean,
];

interface Found {
  parcels: string | null;
  batches: Record<string, string> | null;
  machines: Record<string, string> | null;
}

/**
 * Everything that hangs together with some seeds, one way and any depth: what the walk along the ledger reached, with the batch, machine and
 * customer of each step, and the parcels its lines name. It comes as a few lists, since ten years of rows one by one take longer to carry than
 * to find; a parcel that is used up is told by the line that made it.
 */
export async function loadGraph(db: Db, seeds: Seeds, way: 'forward' | 'back'): Promise<TraceGraph> {
  const { lines, batchIds, loneStepIds } = await walk(db, seeds, way);
  const steps = new Map<string, TraceStep>();
  // An id is the same text wherever it stands: told by what it is, and not letter by letter.
  const stepIdOf = (id: string) => lines.get(id)?.[0]?.stepId ?? id;
  for (const step of await stepsIn(db, batchIds, loneStepIds)) {
    if (!lines.has(step.id)) continue;
    step.id = stepIdOf(step.id);
    steps.set(step.id, step);
  }
  const made = new Map<string, WalkedLine>();
  // What is made by a batch that was read and used up needs no looking up.
  const wanted = new Set<string>(seeds.parcelIds);
  for (const [stepId, mine] of lines) {
    // What a count finds was made elsewhere.
    const isMaking = steps.get(stepId)?.kind !== 'count';
    if (isMaking)
      for (const line of mine) if (line.parcelId && line.direction === 'out') made.set(line.parcelId, line);
  }
  for (const mine of lines.values())
    for (const { parcelId } of mine) if (parcelId && !made.has(parcelId)) wanted.add(parcelId);
  const inBatches = sql`${idsIn(batchIds)} as u(id)`;
  const [found] = rowsOf<Found>(
    await db.execute(sql`
      with kept as materialized (
        select p.* from ${inBatches} cross join lateral (
          select ${KEPT} from parcel p where p.batch_id = u.id and p.remaining_mg > 0 offset 0) p
        union all select p.* from ${idsIn([...wanted])} as u(id) cross join lateral (
          select ${KEPT} from parcel p where p.id = u.id offset 0) p
        union all select p.* from ${idsIn(loneStepIds)} as u(id) cross join lateral (
          select ${KEPT} from parcel p where p.step_id = u.id offset 0) p)
      select
        (select '[' || string_agg(${PARCEL}, ',') || ']' from kept p
          left join lot l on l.parcel_id = p.id and not l.voided
          left join supply u on u.parcel_id = p.id) as parcels,
        (select json_object_agg(b.id, b.code) from batch b
          where b.id in ${idsIn(batchIds)} or b.id in (select p.batch_id from kept p)) as batches,
        (select json_object_agg(a.id, a.name) from machine a) as machines`),
  );
  const nameIn = (names: Record<string, string> | null | undefined, id: string | null) =>
    id === null ? null : (names?.[id] ?? null);
  const parcels = new Map<string, TraceParcel>();
  for (const cells of JSON.parse(found?.parcels ?? '[]') as ParcelCells[]) {
    const [
      given,
      stepId,
      material,
      label,
      lotId,
      lotCode,
      supplyName,
      batchId,
      remainingMg,
      count,
      place,
      onHold,
    ] = cells;
    const line = made.get(given);
    if (!line && !wanted.has(given)) continue;
    const id = line?.parcelId ?? given;
    parcels.set(id, {
      id,
      stepId: stepIdOf(stepId),
      material,
      label: label ?? '',
      lotId,
      lotCode,
      supplyName,
      batchId,
      batchCode: nameIn(found?.batches, batchId),
      remainingMg,
      count,
      place: place ?? '',
      onHold,
    });
  }
  for (const step of steps.values()) {
    step.batchCode = nameIn(found?.batches, step.batchId);
    step.machine = nameIn(found?.machines, step.machineId);
  }
  for (const [parcelId, { stepId, material, count }] of made) {
    if (parcels.has(parcelId)) continue;
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

/** All steps of some batches and some that belong to none, oldest first; names of batches and machines are still to be set. */
async function stepsIn(
  db: Db,
  batchIds: readonly string[],
  loneStepIds: readonly string[],
): Promise<TraceStep[]> {
  const [columns] = rowsOf<StepColumns>(
    await db.execute(sql`
      select ${STEP_COLUMNS} from (
        select s.* from ${idsIn(batchIds)} as u(id) cross join lateral (
          select * from step s where s.batch_id = u.id and not s.voided offset 0) s
        union all select * from step s where s.id in ${idsIn(loneStepIds)} and not s.voided) s`),
  );
  if (!columns?.ids) return [];
  const kinds = columns.kinds.split(',');
  const stations = columns.stations.split(',');
  const batches = columns.batches.split(',');
  const machines = columns.machines.split(',');
  const started = columns.started.split(',');
  const ended = columns.ended.split(',');
  const hands = JSON.parse(columns.hands) as string[];
  const went = JSON.parse(columns.went) as (0 | [destination: string | null, customerId: string | null])[];
  const instant = (ms: string) => new Date(Number(ms)).toISOString();
  return columns.ids
    .split(',')
    .map((id, i): TraceStep => {
      const left = went[i] || null;
      return {
        id,
        kind: kinds[i] as TraceStep['kind'],
        station: stations[i] as TraceStep['station'],
        isOpen: columns.open[i] === '1',
        batchId: batches[i] || null,
        batchCode: null,
        machineId: machines[i] || null,
        machine: null,
        startedAt: instant(started[i]!),
        endedAt: ended[i] ? instant(ended[i]) : null,
        by: hands[i]!,
        destination: left?.[0] ?? null,
        customerId: left?.[1] ?? null,
      };
    })
    .sort((a, b) =>
      a.startedAt === b.startedAt ? (a.id < b.id ? -1 : 1) : a.startedAt < b.startedAt ? -1 : 1,
    );
}
