import { z } from 'zod';
import { ObservationRecord } from '@wunsch/contract';
import type { App } from '../../http/types.ts';
import { loadKind } from '../../views/bundle.ts';

/** Counts of moths in the traps. */
export function trapRoutes(app: App): void {
  app.get(
    '/api/traps',
    {
      config: { cached: true },
      schema: {
        tags: ['hold'],
        summary: 'Moths found in the traps, oldest first',
        response: { 200: z.array(ObservationRecord) },
      },
    },
    async (request) => loadKind(request.store.db, 'traps'),
  );
}
