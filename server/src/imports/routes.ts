import { desc } from 'drizzle-orm';
import { z } from 'zod';
import { ImportRun } from '@wunsch/contract';
import { importRun } from '../db/schema/index.ts';
import type { App } from '../http/types.ts';

/** Old tables that were taken over. */
export function importRoutes(app: App): void {
  app.get(
    '/api/imports',
    {
      schema: {
        tags: ['files'],
        summary: 'Old tables that were taken over, newest first',
        response: { 200: z.array(ImportRun) },
      },
    },
    async (request) => {
      const { id, of, file, rows, at, by, voided, seq } = importRun;
      return request.store.db
        .select({ id, of, file, rows, at, by, voided, seq })
        .from(importRun)
        .orderBy(desc(importRun.seq))
        .limit(200);
    },
  );
}
