import { sql } from 'drizzle-orm';
import { packFloats, packMilliseconds } from './packed.ts';
import type { Store } from '@wunsch/server';

/** Columns of the copied tables, with `$` before those that take a new id and `@` before those that move back in time. */
const TABLES: Readonly<Record<string, string>> = {
  batch: '$id, code, lot_id, recipe_id, planned_mg, bar_mg, state, state_reason, @started_at, by, version',
  step: '$id, $batch_id, station, kind, status, voided, @started_at, @ended_at, machine_id, hands_on_minutes, details, by, version',
  parcel: '$id, material, label, lot_id, $batch_id, $step_id, remaining_mg, count, place, @made_at',
  movement:
    '$id, $step_id, $batch_id, direction, mass_mg, source, u_mg, material, ?parcel_id, ingredient_id, label, reason, count, price_per_kg, $split_of, note, @at, by, seq, $replaces, correction_reason, $replaced_by, voided',
  observation: '$id, $batch_id, $step_id, kind, data, @at, by, seq, $replaces, $replaced_by, voided',
  readings: '$id, $step_id, place, @started_at, count, ms, celsius, source, by, seq',
  tasting: '$id, $batch_id, person_id, by, @at, card, seq, voided',
};

/** Readings added to each batch so that ten years hold five million. */
const LONG_SERIES = 1000;

/**
 * Turns the demo into ten years of it: its finished batches are copied until there are `batches`, each with
 * its own steps, weights, observations and some 1,700 readings. Lots keep their own parcels.
 */
export async function makeTenYears(
  store: Store,
  batches: number,
): Promise<{ batches: number; readings: number; movements: number }> {
  const { db } = store;
  const one = async (query: ReturnType<typeof sql>) =>
    Number(
      Object.values(
        ((await db.execute(query)) as unknown as { rows: Record<string, unknown>[] }).rows[0]!,
      )[0],
    );
  await db.execute(sql`create temporary table source as select id from batch where state = 'finished'`);
  await db.execute(
    sql`create temporary table source_step as select id from step where batch_id in (select id from source)`,
  );
  await db.execute(sql`create temporary table lot_parcel as select parcel_id as id from lot`);
  const each = await one(sql`select count(*) from source`);
  const rounds = Math.ceil((batches - each) / each);
  for (let round = 1; round <= rounds; round += 1) {
    for (const [table, columns] of Object.entries(TABLES)) {
      const picked = columns
        .split(', ')
        .map((c) => {
          const name = c.replace(/^[$@?]/, '');
          if (c.startsWith('$'))
            return `case when t.${name} is null then null else md5(t.${name}::text || '${round}')::uuid end`;
          if (c.startsWith('?'))
            return `case when t.${name} is null or t.${name} in (select id from lot_parcel) then t.${name} else md5(t.${name}::text || '${round}')::uuid end`;
          if (c.startsWith('@')) return `t.${name} - interval '${round * 53} days'`;
          return name === 'code' ? `t.code || '/${round}'` : `t.${name}`;
        })
        .join(', ');
      const names = columns.replace(/[$@?]/g, '');
      const scope =
        table === 'batch'
          ? 'id in (select id from source)'
          : table === 'readings'
            ? 'step_id in (select id from source_step)'
            : 'batch_id in (select id from source)';
      await db.execute(
        sql.raw(`insert into ${table} (${names}) select ${picked} from ${table} t where ${scope}`),
      );
    }
  }
  const seconds = Array.from({ length: LONG_SERIES }, (_, i) => i * 2);
  const ms = Buffer.from(packMilliseconds(seconds)).toString('hex');
  const celsius = Buffer.from(packFloats(seconds.map((s) => 20 + 100 * (1 - Math.exp(-s / 500))))).toString(
    'hex',
  );
  await db.execute(
    sql.raw(`insert into readings (id, step_id, place, started_at, count, ms, celsius, source, by, seq)
    select md5(s.id::text || 'long')::uuid, s.id, 'room', s.started_at, ${LONG_SERIES}, decode('${ms}', 'hex'), decode('${celsius}', 'hex'), 'bench', '', 0
    from (select distinct on (batch_id) id, started_at from step where station = 'grind' order by batch_id, id) s`),
  );
  await db.execute(sql`analyze`);
  return {
    batches: await one(sql`select count(*) from batch`),
    readings: await one(sql`select sum(count) from readings`),
    movements: await one(sql`select count(*) from movement`),
  };
}
