import { eq, sql } from 'drizzle-orm';
import { z } from 'zod';
import { MonthBook } from '@wunsch/contract';
import type { Db } from '../db/database.ts';
import { instantOf, rowsOf } from '../db/raw.ts';
import { monthSign } from '../db/schema/index.ts';
import type { App } from '../http/types.ts';
import { boundsOf, monthFigures } from './figures.ts';

/** Months shown together. */
const SHOWN = 12;

/** Months in which anything was weighed or delivered, or a class was held, newest first. */
async function monthsOf(db: Db, before: string | undefined): Promise<string[]> {
  const rows = rowsOf<{ month: string }>(
    await db.execute(sql`
      select distinct to_char(x.at at time zone 'UTC', 'YYYY-MM') as month from (
        select started_at as at from step where not voided
        union all select at from delivery where not voided
        union all select starts_at from class_event where not voided and held_at is not null
      ) x
      ${before === undefined ? sql`` : sql`where x.at < ${boundsOf(before).from}`}
      order by 1 desc limit ${SHOWN}`),
  );
  return rows.map((r) => r.month);
}

/** Weights of a month that were corrected after it was signed. */
async function correctionsSince(db: Db, month: string, seq: number) {
  const { from, to } = boundsOf(month);
  return rowsOf<MonthBook[number]['corrections'][number]>(
    await db.execute(sql`
      select ${instantOf('n.at')} as at, n.by, b.code as "batchCode", coalesce(nullif(n.label, ''), n.material, n.reason, '') as label,
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
          before: z
            .string()
            .regex(/^\d{4}-\d{2}$/)
            .optional(),
        }),
        response: { 200: MonthBook },
      },
    },
    async (request) => {
      const { db } = request.store;
      const signed = await db.select().from(monthSign).where(eq(monthSign.voided, false));
      const book: MonthBook = [];
      for (const month of await monthsOf(db, request.query.before)) {
        const of = signed.find((s) => s.month === month);
        book.push({
          month,
          now: await monthFigures(db, month),
          signed: of ? { id: of.id, at: of.at, by: of.by, note: of.note, figures: of.figures } : null,
          corrections: of ? await correctionsSince(db, month, of.seq) : [],
        });
      }
      return book;
    },
  );
}
