import { eq, sql } from 'drizzle-orm';
import { z } from 'zod';
import { Month, MonthBook } from '@wunsch/contract';
import { monthBounds, type MonthBounds } from '@wunsch/core/ledger';
import type { Db } from '../db/database.ts';
import { instantOf, rowsOf } from '../db/raw.ts';
import { monthSign } from '../db/schema/index.ts';
import type { App } from '../http/types.ts';
import { loadHours } from '../plan/loadRoom.ts';
import { monthFigures } from './figures.ts';

/** Months shown together. */
const SHOWN = 12;

/** Months in which anything was weighed or delivered, or a class was held, newest first. */
async function monthsOf(db: Db, timeZone: string, before: string | undefined): Promise<string[]> {
  const rows = rowsOf<{ month: string }>(
    await db.execute(sql`
      select distinct to_char(x.at at time zone ${timeZone}, 'YYYY-MM') as month from (
        select started_at as at from step where not voided
        union all select at from delivery where not voided
        union all select starts_at from class_event where not voided and held_at is not null
      ) x
      ${before === undefined ? sql`` : sql`where x.at < ${monthBounds(before, timeZone).from}`}
      order by 1 desc limit ${SHOWN}`),
  );
  return rows.map((r) => r.month);
}

/** Weights of a month that were corrected after it was signed. */
async function correctionsSince(db: Db, { from, to }: MonthBounds, seq: number) {
  return rowsOf<MonthBook[number]['corrections'][number]>(
    await db.execute(sql`
      select ${instantOf('n.at')} as at, n.by, b.code as "batchCode", coalesce(n.label, '') as label,
        n.material, case when n.direction = 'loss' then n.reason end as loss,
        o.mass_mg::float8 as "fromMg", n.mass_mg::float8 as "toMg", coalesce(n.correction_reason, '') as reason
      from movement n
      join movement o on o.id = n.replaces
      left join batch b on b.id = n.batch_id
      where n.seq > ${seq} and o.seq <= ${seq} and not n.voided and n.source <> 'derived' and o.at >= ${from} and o.at < ${to}
      order by n.seq limit 100`),
  );
}

/** The months of the books. */
export function monthRoutes(app: App): void {
  app.get(
    '/api/months',
    {
      config: { cached: true },
      schema: {
        tags: ['ledger'],
        summary:
          'What each month came to, by the books as they stand and as they stood when it was signed off',
        querystring: z.object({
          before: Month.optional(),
        }),
        response: { 200: MonthBook },
      },
    },
    async (request) => {
      const { db } = request.store;
      const signed = await db.select().from(monthSign).where(eq(monthSign.voided, false));
      const book: MonthBook = [];
      const here = await loadHours(db);
      for (const month of await monthsOf(db, here.timeZone, request.query.before)) {
        const of = signed.find((s) => s.month === month);
        // A signed month stays on the calendar it was signed by.
        const timeZone = of?.timeZone ?? here.timeZone;
        const bounds = monthBounds(month, timeZone);
        book.push({
          month,
          timeZone,
          now: await monthFigures(db, bounds),
          signed: of ? { id: of.id, at: of.at, by: of.by, note: of.note, figures: of.figures } : null,
          corrections: of ? await correctionsSince(db, bounds, of.seq) : [],
        });
      }
      return book;
    },
  );
}
