import { z } from 'zod';
import { BatchCost, BatchSpending, Day, Id, UsualWork } from '@wunsch/contract';
import { IdParams } from '../http/entries.ts';
import type { App } from '../http/types.ts';
import { loadSpending } from './batch.ts';
import { loadCosts } from './load.ts';
import { loadUsualWork } from './usualWork.ts';

/** What bars cost, and what they fetched. */
export function costRoutes(app: App): void {
  app.get(
    '/api/costs',
    {
      config: { cached: true },
      schema: {
        tags: ['cost'],
        summary: 'What the bars of each batch cost and have fetched, newest batch first',
        querystring: z.object({
          batchId: Id.optional(),
          /** Batches begun on this day or later, and before that one. */
          from: Day.optional(),
          before: Day.optional(),
          limit: z.coerce.number().int().min(1).max(1000).default(80),
        }),
        response: { 200: z.array(BatchCost) },
      },
    },
    ({ store, query: { batchId, from, before, limit } }) =>
      loadCosts(store.db, {
        limit,
        ...(batchId && { batchIds: [batchId] }),
        startedFrom: from,
        startedBefore: before,
      }),
  );

  app.get(
    '/api/batches/:id/cost',
    {
      config: { cached: true },
      schema: {
        tags: ['cost'],
        summary: 'What has been spent on a batch so far, and what its bars have cost',
        params: IdParams,
        response: { 200: BatchSpending },
      },
    },
    ({ store, params }) => loadSpending(store.db, params.id),
  );

  app.get(
    '/api/usual-work',
    {
      config: { cached: true },
      schema: {
        tags: ['cost'],
        summary: 'What work at each station comes to for a kg of bars, over the last finished batches',
        response: { 200: UsualWork },
      },
    },
    ({ store }) => loadUsualWork(store.db),
  );
}
