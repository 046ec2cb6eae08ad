import { sql } from 'drizzle-orm';
import type { WinnowRecord } from '@wunsch/contract';
import type { Db } from '../../db/database.ts';

/** Latest winnowings looked at. */
const MOST = 60;

interface Row {
  step_id: string;
  batch_id: string;
  batch_code: string;
  lot_id: string;
  machine_id: string | null;
  started_at: string;
  ended_at: string | null;
  details: { setting?: string; passes?: number };
  in_mg: number | null;
  nib_mg: number | null;
  husk_mg: number | null;
  notes: { id: string; at: string; data: Record<string, unknown> }[] | null;
}

/** The latest winnowings with their passes and picked samples, newest first; one query. */
export async function loadWinnowRecords(db: Db): Promise<WinnowRecord[]> {
  const mass = (where: ReturnType<typeof sql>) =>
    sql`(select sum(m.mass_mg)::float8 from movement m where m.step_id = s.id and m.replaced_by is null and not m.voided and ${where})`;
  const result = await db.execute(sql`
    select s.id as step_id, s.batch_id, b.code as batch_code, b.lot_id, s.machine_id, s.started_at, s.ended_at, s.details,
      ${mass(sql`m.direction = 'in'`)} as in_mg,
      ${mass(sql`m.direction = 'out' and m.material = 'nibs'`)} as nib_mg,
      ${mass(sql`m.direction = 'out' and m.material = 'husk'`)} as husk_mg,
      (select json_agg(json_build_object('id', o.id, 'at', o.at, 'data', o.data) order by o.at, o.seq) from observation o
        where o.step_id = s.id and o.kind in ('picked', 'pass') and o.replaced_by is null and not o.voided) as notes
    from (select * from step where kind = 'winnow' and not voided
      order by started_at desc limit ${MOST}) s
    join batch b on b.id = s.batch_id and b.state <> 'void'
    order by s.started_at desc`);
  return (result as unknown as { rows: Row[] }).rows.map((row) => ({
    stepId: row.step_id,
    batchId: row.batch_id,
    batchCode: row.batch_code,
    lotId: row.lot_id,
    machineId: row.machine_id,
    startedAt: new Date(row.started_at).toISOString(),
    endedAt: row.ended_at ? new Date(row.ended_at).toISOString() : null,
    inMg: row.in_mg ?? 0,
    nibMg: row.nib_mg ?? 0,
    huskMg: row.husk_mg ?? 0,
    ...passesAndSamples(row),
  }));
}

/** Passes in order, and each sample with the setting of the pass before it and how many there had been. */
function passesAndSamples({ notes, details }: Row): Pick<WinnowRecord, 'passes' | 'picked'> {
  const written = details.setting ? /\d+(?:[.,]\d+)?/.exec(details.setting)?.[0] : undefined;
  let setting = written ? Number(written.replace(',', '.')) : null;
  const passes: WinnowRecord['passes'] = [];
  const picked: WinnowRecord['picked'] = [];
  for (const { id, at, data } of notes ?? []) {
    if (data.kind === 'pass') {
      setting = (data.setting as number | null) ?? setting;
      passes.push({ id, at, setting, minutes: (data.minutes as number | null) ?? null });
    } else if (data.kind === 'picked')
      picked.push({
        id,
        at,
        of: data.of as 'husk' | 'nib',
        foundMg: Number(data.foundMg),
        sampleMg: Number(data.sampleMg),
        pieces: (data.pieces as number | null) ?? null,
        setting,
        passes: Math.max(1, passes.length > 0 ? passes.length : (details.passes ?? 1)),
      });
  }
  return { passes, picked };
}
