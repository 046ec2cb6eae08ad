import { z } from 'zod';
import { ObservationRecord } from '@wunsch/contract';
import type { App } from '../../http/types.ts';
import { loadKind } from '../../views/bundle.ts';

/** Tastings of resting blocks. */
export function restRoutes(app: App): void {
  const tags = ['rest'];
  app.get(
    '/api/retastes',
    {
      config: { cached: true },
      schema: {
        tags,
        summary: 'Tastings of resting blocks, oldest first',
        response: { 200: z.array(ObservationRecord) },
      },
    },
    async (request) => loadKind(request.store.db, 'retaste'),
  );
}
