import { desc, eq } from 'drizzle-orm';
import { z } from 'zod';
import { ConchedBatchRecord } from '@wunsch/contract';
import { batch } from '../../db/schema/index.ts';
import type { App } from '../../http/types.ts';
import { loadImpressions } from '../../views/impressions.ts';
import { loadRefiningHours } from '../../views/refiningHours.ts';

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
      const { db } = request.store;
      const latest = await db
        .select({ id: batch.id, code: batch.code })
        .from(batch)
        .where(eq(batch.state, 'finished'))
        .orderBy(desc(batch.startedAt))
        .limit(MOST);
      const ids = latest.map((b) => b.id);
      const said = await loadImpressions(db, ids);
      const hours = await loadRefiningHours(db, ids);
      return latest.reverse().flatMap(({ id, code }) => {
        const cards = said.get(id);
        const ran = hours.get(id);
        if (!cards || ran === undefined) return [];
        const liking = cards.reduce((sum, c) => sum + c.liking, 0) / cards.length;
        return [{ batchId: id, batchCode: code, hours: ran, liking }];
      });
    },
  );
}
