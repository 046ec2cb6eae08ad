import { z } from 'zod';
import { BatchCost, Id } from '@wunsch/contract';
import type { App } from '../http/types.ts';
import { loadCosts } from './load.ts';

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
          limit: z.coerce.number().int().min(1).max(1000).default(80),
        }),
        response: { 200: z.array(BatchCost) },
      },
    },
    (request) => loadCosts(request.store.db, request.query),
  );
}
