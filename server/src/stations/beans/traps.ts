import { z } from 'zod';
import { ObservationRecord } from '@wunsch/contract';
import type { App } from '../../app.ts';
import { loadKind } from '../../views/bundle.ts';

/** Counts of moths in the traps. */
export function trapRoutes(app: App): void {
  app.get(
    '/api/traps',
    {
      schema: {
        tags: ['beans'],
        summary: 'Moths found in the traps, oldest first',
        response: { 200: z.array(ObservationRecord) },
      },
    },
    async () => loadKind(app.store().db, 'traps'),
  );
}
