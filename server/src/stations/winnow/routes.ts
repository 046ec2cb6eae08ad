import { z } from 'zod';
import { WinnowRecord } from '@wunsch/contract';
import type { App } from '../../http/types.ts';
import { loadWinnowRecords } from './records.ts';

/** Winnowings over all lots. */
export function winnowRoutes(app: App): void {
  app.get(
    '/api/winnowings',
    {
      config: { cached: true },
      schema: {
        tags: ['winnow'],
        summary: 'Winnowings with their passes and picked samples, newest first',
        response: { 200: z.array(WinnowRecord) },
      },
    },
    async (request) => loadWinnowRecords(request.store.db),
  );
}
