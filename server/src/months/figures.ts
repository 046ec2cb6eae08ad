import { sql } from 'drizzle-orm';
import type { MonthFigures } from '@wunsch/contract';
import { totalCost } from '@wunsch/core/cost';
import type { MonthBounds } from '@wunsch/core/ledger';
import { UNACCOUNTED } from '@wunsch/core/trace';
import { loadCosts } from '../cost/load.ts';
import type { Db } from '../db/database.ts';
import { rowsOf } from '../db/raw.ts';

/** Most batches of one month whose bars are costed. */
const MOST = 300;

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
  const [row] = rowsOf<Record<keyof MonthFigures, string | number | null>>(
    await db.execute(sql`
      select
        (select coalesce(sum(arrived_mg), 0) from lot
          where not voided and received_on >= ${firstDay}::date and received_on < ${nextDay}::date) as "receivedMg",
        (select coalesce(sum(arrived_mg / 1e6 * price_per_kg + freight), 0) from lot
          where not voided and received_on >= ${firstDay}::date and received_on < ${nextDay}::date) as "receivedValue",
        (select coalesce(sum(m.count), 0) from movement m join step s on s.id = m.step_id
          where s.kind = 'mould' and not s.voided and m.direction = 'out' and m.material = 'bars'
            and m.replaced_by is null and not m.voided and ${within('coalesce(s.ended_at, m.at)')}) as "barsMade",
        (select coalesce(sum(m.count), 0) from delivery d join delivery_line l on l.delivery_id = d.id
          join movement m on m.step_id = l.step_id and m.direction = 'loss' and m.replaced_by is null and not m.voided
          where not d.voided and ${within('d.at')}) as "barsOut",
        (select coalesce(sum(coalesce(l.price, 0) * coalesce(m.count, m.mass_mg / 1e6)), 0) from delivery d
          join delivery_line l on l.delivery_id = d.id
          join movement m on m.step_id = l.step_id and m.direction = 'loss' and m.replaced_by is null and not m.voided
          where not d.voided and ${within('d.at')}) as fetched,
        (select coalesce(sum((c.facts ->> 'price')::float8), 0) from class_event c
          join class_guest g on g.class_id = c.id and g.came and not g.voided
          where not c.voided and c.held_at is not null and ${within('c.starts_at')}) as "classIncome",
        (select coalesce(sum(m.mass_mg), 0) from movement m join step s on s.id = m.step_id
          where not s.voided and m.direction = 'loss' and m.reason in (${reasons})
            and m.replaced_by is null and not m.voided and ${within('coalesce(s.ended_at, m.at)')}) as "unexplainedMg"`),
  );
  const costs = await loadCosts(db, { limit: MOST, startedFrom: from, startedBefore: to });
  const whole = (value: unknown) => Math.round(Number(value ?? 0));
  return {
    receivedMg: whole(row!.receivedMg),
    receivedValue: whole(row!.receivedValue),
    barsMade: whole(row!.barsMade),
    barsOut: whole(row!.barsOut),
    fetched: whole(row!.fetched),
    classIncome: whole(row!.classIncome),
    costOfBars: whole(costs.reduce((sum, c) => sum + (totalCost(c.bar) - c.bar.credit) * c.bars, 0)),
    unexplainedMg: whole(row!.unexplainedMg),
  };
}
