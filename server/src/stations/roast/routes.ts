import { z } from 'zod';
import { Id, RoastRecord } from '@wunsch/contract';
import type { App } from '../../http/types.ts';
import { loadRoasts } from './roasts.ts';

/** Roasts over all batches. */
export function roastRoutes(app: App): void {
  const tags = ['roast'];
  app.get(
    '/api/roasts',
    {
      config: { cached: true },
      schema: {
        tags,
        summary: 'Finished and running roasts with plan, hands, readings and later scores, newest first',
        querystring: z.object({
          machineId: Id.optional(),
          lotId: Id.optional(),
          batchId: Id.optional(),
          ids: z.string().max(2000).optional(),
          find: z.string().trim().min(1).max(80).optional(),
          limit: z.coerce.number().int().min(1).max(60).default(12),
          width: z.coerce.number().int().min(10).max(600).default(120),
        }),
        response: { 200: z.array(RoastRecord) },
      },
    },
    async (request) => {
      const store = request.store;
      await store.writer.settleStream();
      return loadRoasts(store.db, request.query);
    },
  );
}
