import { sql } from 'drizzle-orm';
import type { UsualWork } from '@wunsch/contract';
import type { Station } from '@wunsch/core/ledger';
import type { Db } from '../db/database.ts';
import { rowsOf } from '../db/raw.ts';
import { loadSettings } from '../views/settings.ts';

/** How many of the last finished batches say what is usual. */
const LEARNED_FROM = 20;

/** What work at each station comes to for a kg of bars, from the last finished batches that note their hands there. */
export async function loadUsualWork(db: Db): Promise<UsualWork> {
  const rows = rowsOf<{ station: Station; minutes: number; kg: number; batches: number }>(
    await db.execute(sql`
      with made as (
        select b.id, (
          select sum(m.mass_mg)::float8 / 1e6 from step s join movement m on m.step_id = s.id
            join parcel p on p.id = m.parcel_id and p.material = 'bars'
          where s.batch_id = b.id and s.kind = 'mould' and not s.voided
            and m.direction = 'out' and m.replaced_by is null and not m.voided
        ) as kg
        from batch b where b.state = 'finished' order by b.started_at desc, b.id limit ${LEARNED_FROM}
      ), worked as (
        select s.batch_id, s.station, sum(s.hands_on_minutes) as minutes from step s
        where s.batch_id in (select id from made) and not s.voided and s.hands_on_minutes is not null and s.kind <> 'leave'
        group by s.batch_id, s.station
      )
      select w.station, sum(w.minutes)::float8 as minutes, sum(made.kg)::float8 as kg, count(*)::int as batches
      from worked w join made on made.id = w.batch_id where made.kg > 0 group by w.station`),
  );
  const { labourRate } = await loadSettings(db);
  return {
    batches: Math.max(0, ...rows.map((r) => r.batches)),
    labourPerKg: Object.fromEntries(rows.map((r) => [r.station, ((r.minutes / 60) * labourRate) / r.kg])),
  };
}
