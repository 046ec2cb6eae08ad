import { z } from 'zod';
import { SortRecord } from '@wunsch/contract';
import type { App } from '../../http/types.ts';
import { loadSortRecords } from './records.ts';

/** Sortings over all lots. */
export function sortRoutes(app: App): void {
  app.get(
    '/api/sortings',
    {
      config: { cached: true },
      schema: {
        tags: ['sort'],
        summary: 'Rejects by reason of finished sortings, newest first',
        response: { 200: z.array(SortRecord) },
      },
    },
    async (request) => loadSortRecords(request.store.db),
  );
}
