import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { ConchedBatchRecord } from '@wunsch/contract';
import type { App } from '../../http/types.ts';

/** Latest tasted batches looked at. */
const MOST = 200;

/** Conching over all batches. */
export function concheRoutes(app: App): void {
  const tags = ['conche'];
  app.get(
    '/api/conches',
    {
      config: { cached: true },
      schema: {
        tags,
        summary: 'Hours in grinder and conche of tasted batches, with their mean liking',
        response: { 200: z.array(ConchedBatchRecord) },
      },
    },
    async (request) => {
      const result = await request.store.db.execute(sql`
        select b.id as "batchId", b.code as "batchCode", w.hours::float8 as hours, t.liking::float8 as liking
        from (select * from batch where state = 'finished' order by started_at desc limit ${MOST}) b
        cross join lateral (
          select sum(extract(epoch from (s.ended_at - s.started_at))) / 3600 as hours from step s
          where s.batch_id = b.id and s.kind in ('grind', 'conche') and s.status = 'closed' and not s.voided
        ) w
        cross join lateral (
          select avg((x.card->>'liking')::float8) as liking from tasting x where x.batch_id = b.id and not x.voided
        ) t
        where w.hours is not null and t.liking is not null
        order by b.started_at`);
      return (result as unknown as { rows: ConchedBatchRecord[] }).rows;
    },
  );
}
