import { z } from 'zod';
import type { App } from '../http/types.ts';
import type { Store } from '../store/store.ts';

/** The version answered by /api/health. */
export const VERSION = '0.2.0';

/** Whether the workshop is open and its database answers. */
export function healthRoutes(app: App, current: () => Store | null): void {
  app.get(
    '/api/health',
    {
      schema: {
        tags: ['health'],
        summary: 'Version, and whether the workshop is open and its database answers',
        response: {
          200: z.object({
            status: z.enum(['ok', 'opening', 'waiting']),
            version: z.string(),
            database: z.string(),
          }),
        },
      },
    },
    async () => {
      const store = current();
      return {
        status: !store ? ('opening' as const) : store.isAway() ? ('waiting' as const) : ('ok' as const),
        version: VERSION,
        database: store?.kind ?? 'opening',
      };
    },
  );
}
