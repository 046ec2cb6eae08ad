import { z } from 'zod';
import type { App } from '../http/types.ts';

/** Under which addresses other devices of the workshop open it; none while it listens to this machine alone. */
export function addressRoutes(app: App, addresses: () => string[]): void {
  app.get(
    '/api/addresses',
    {
      schema: {
        tags: ['access'],
        summary: 'Addresses under which phones and tablets in the same network open the workshop',
        response: { 200: z.array(z.string()) },
      },
    },
    async () => addresses(),
  );
}
