import { sql } from 'drizzle-orm';
import { epcisEvent, epcisFrame, type EpcisLine, type EpcisStep } from '@wunsch/core/trace';
import type { Db } from '../db/database.ts';
import { instantOf, rowsOf } from '../db/raw.ts';

/** Steps fetched together. */
const FETCH = 500;

type Row = Omit<EpcisStep, 'lines'> & { lines: EpcisLine[] | null };

/** Closed steps in the order of their ids, which is that of their making, after one; each with its lines in force. */
async function stepsAfter(db: Db, after: string | null): Promise<Row[]> {
  return rowsOf<Row>(
    await db.execute(sql`
      select s.id, s.kind, s.station, ${instantOf('coalesce(s.ended_at, s.started_at)')} as at, b.code as "batchCode", array_to_string(coalesce(s.hands, array[s.by]), ', ') as by, c.name as customer,
        coalesce((select ${instantOf('max(e.at)')} from movement m join trail e on e.seq = m.seq where m.step_id = s.id), ${instantOf('coalesce(s.ended_at, s.started_at)')}) as "recordedAt",
        (select json_agg(json_build_object('direction', m.direction, 'massMg', m.mass_mg, 'count', m.count, 'material', m.material, 'label', m.label,
          'reason', m.reason, 'parcelId', m.parcel_id, 'ingredientId', m.ingredient_id) order by m.seq, m.id)
          from movement m where m.step_id = s.id and m.replaced_by is null and not m.voided) as lines
      from step s
      left join batch b on b.id = s.batch_id
      left join delivery_line dl on dl.step_id = s.id
      left join delivery d on d.id = dl.delivery_id
      left join customer c on c.id = d.customer_id
      where s.status = 'closed' and not s.voided ${after === null ? sql`` : sql`and s.id > ${after}::uuid`}
      order by s.id limit ${FETCH}`),
  );
}

/** Everything that came, became something else, and left, as an EPCIS 2.0 document (JSON-LD), part by part. */
export async function* epcisDocument(db: Db, creationDate: string): AsyncGenerator<string> {
  const { head, tail } = epcisFrame(creationDate);
  yield head;
  let after: string | null = null;
  let isFirst = true;
  for (;;) {
    const steps: Row[] = await stepsAfter(db, after);
    const events = steps.flatMap((s) => epcisEvent({ ...s, lines: s.lines ?? [] }) ?? []);
    if (events.length > 0) {
      yield (isFirst ? '' : ',') + events.map((e) => JSON.stringify(e)).join(',');
      isFirst = false;
    }
    if (steps.length < FETCH) break;
    after = steps.at(-1)!.id;
  }
  yield tail;
}
