import { Readable } from 'node:stream';
import { z } from 'zod';
import { MAKERS } from '../commands/command.ts';
import { workshop } from '../db/schema/index.ts';
import { Problem } from '../http/problem.ts';
import type { App } from '../http/types.ts';
import { readSettings } from '../views/stored.ts';
import { tableCsv, TABLES, type TableName } from './tables.ts';

const NAMES = Object.keys(TABLES) as [TableName, ...TableName[]];

/** The workshop’s tables, to take away. */
export function formatRoutes(app: App): void {
  app.get(
    '/api/tables/:name.csv',
    {
      schema: {
        tags: ['files'],
        summary: 'A whole table as CSV: one row one thing, units in the heading; streamed',
        params: z.object({ name: z.enum(NAMES) }),
      },
    },
    async (request, reply) => {
      if (!MAKERS.includes(request.person!.role))
        throw new Problem({
          status: 403,
          code: 'not-allowed',
          detail: 'whole tables are for owners and makers to take away',
        });
      const { store } = request;
      await store.writer.settleStream();
      const { name } = request.params;
      const [shop] = await store.db.select({ settings: workshop.settings }).from(workshop);
      return reply
        .type('text/csv; charset=utf-8')
        .header('content-disposition', `attachment; filename="${name}.csv"`)
        .send(
          Readable.from(tableCsv(store.db, name, readSettings(shop?.settings).currency), {
            objectMode: false,
          }),
        );
    },
  );
}
