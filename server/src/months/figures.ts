import { sql } from 'drizzle-orm';
import type { MonthFigures } from '@wunsch/contract';
import { totalCost } from '@wunsch/core/cost';
import type { MonthBounds } from '@wunsch/core/ledger';
import { UNACCOUNTED } from '@wunsch/core/trace';
import { loadCosts } from '../cost/load.ts';
import type { Db } from '../db/database.ts';
import { rowsOf } from '../db/raw.ts';

const whole = (value: unknown) => Math.round(Number(value ?? 0));

/** What a month comes to by the books as they stand, on the calendar its bounds are of. */
export async function monthFigures(
  db: Db,
  { from, to, firstDay, nextDay }: MonthBounds,
): Promise<MonthFigures> {
  const within = (column: string) => sql`${sql.raw(column)} >= ${from} and ${sql.raw(column)} < ${to}`;
  const reasons = sql.join(
    [...UNACCOUNTED].map((r) => sql`${r}`),
    sql`, `,
  );
  const [row] = rowsOf<
    Record<
      'receivedMg' | 'receivedValue' | 'suppliesValue' | 'classIncome' | 'unexplainedMg',
      string | number
    >
  >(
    await db.execute(sql`
      select
        (select coalesce(sum(arrived_mg), 0) from lot
          where not voided and received_on >= ${firstDay}::date and received_on < ${nextDay}::date) as "receivedMg",
        (select coalesce(sum(arrived_mg / 1e6 * price_per_kg + freight), 0) from lot
          where not voided and received_on >= ${firstDay}::date and received_on < ${nextDay}::date) as "receivedValue",
        (select coalesce(sum(arrived_mg / 1e6 * price_per_kg), 0) from supply
          where received_on >= ${firstDay}::date and received_on < ${nextDay}::date) as "suppliesValue",
        (select coalesce(sum((c.facts ->> 'price')::float8), 0) from class_event c
          join class_guest g on g.class_id = c.id and g.came and not g.voided
          where not c.voided and c.held_at is not null and ${within('c.starts_at')}) as "classIncome",
        (select coalesce(sum(m.mass_mg), 0) from movement m join step s on s.id = m.step_id
          where not s.voided and m.direction = 'loss' and m.reason in (${reasons})
            and m.replaced_by is null and not m.voided and ${within('coalesce(s.ended_at, m.at)')}) as "unexplainedMg"`),
  );
  const [left] = rowsOf<{ bars: string | number; fetched: string | number }>(
    await db.execute(sql`
      select coalesce(sum(g.count) filter (where g.material = 'bars'), 0) as bars, coalesce(sum(g.fetched), 0) as fetched
      from (
        select p.material, gone.count, case when l.step_id is null then (s.details ->> 'fetched')::float8
          else l.price * coalesce(gone.count, gone.mass_mg / 1e6) end as fetched
        from step s
        join movement gone on gone.step_id = s.id and gone.direction = 'loss' and gone.replaced_by is null and not gone.voided
        join movement taken on taken.step_id = s.id and taken.direction = 'in' and taken.replaced_by is null and not taken.voided
        join parcel p on p.id = taken.parcel_id
        left join delivery_line l on l.step_id = s.id
        where s.kind = 'leave' and not s.voided and ${within('s.started_at')}
      ) g`),
  );
  const made = rowsOf<{ batchId: string; bars: string | number }>(
    await db.execute(sql`
      select s.batch_id as "batchId", sum(m.count) as bars from movement m join step s on s.id = m.step_id
      where s.kind = 'mould' and not s.voided and m.direction = 'out' and m.material = 'bars'
        and m.replaced_by is null and not m.voided and ${within('coalesce(s.ended_at, m.at)')}
      group by s.batch_id`),
  );
  const costs = await loadCosts(db, { batchIds: made.map((b) => b.batchId), limit: made.length });
  const each = new Map(costs.map((c) => [c.batchId, totalCost(c.bar)]));
  const sum = (of: (b: { batchId: string; bars: number }) => number) =>
    whole(made.reduce((total, b) => total + of({ ...b, bars: Number(b.bars) }), 0));
  return {
    receivedMg: whole(row!.receivedMg),
    receivedValue: whole(row!.receivedValue),
    suppliesValue: whole(row!.suppliesValue),
    barsMade: sum((b) => b.bars),
    barsOut: whole(left!.bars),
    fetched: whole(left!.fetched),
    classIncome: whole(row!.classIncome),
    costOfBars: sum((b) => b.bars * (each.get(b.batchId) ?? 0)),
    unexplainedMg: whole(row!.unexplainedMg),
  };
}
