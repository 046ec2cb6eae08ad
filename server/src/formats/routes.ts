import { Readable } from 'node:stream';
import { and, eq, isNotNull } from 'drizzle-orm';
import { z } from 'zod';
import { TABLE_NAMES, type Plots, type Role } from '@wunsch/contract';
import { MAKERS } from '../commands/command.ts';
import type { Db } from '../db/database.ts';
import { lot } from '../db/schema/index.ts';
import { Problem } from '../http/problem.ts';
import type { App } from '../http/types.ts';
import { loadSettings } from '../views/settings.ts';
import { epcisDocument } from './epcis.ts';
import { tableCsv } from './tableCsv.ts';

/** Where the workshop’s lots grew, as one GeoJSON collection (RFC 7946): each plot with its lot. */
async function plotsOf(db: Db): Promise<object> {
  const lots = await db
    .select()
    .from(lot)
    .where(and(eq(lot.voided, false), isNotNull(lot.plots)));
  return {
    type: 'FeatureCollection',
    features: lots.flatMap((l) =>
      (l.plots as Plots).features.map((f) => ({
        ...f,
        properties: {
          ...f.properties,
          lot: l.code,
          lotName: l.name,
          country: l.country,
          region: l.region,
          grower: l.grower,
          harvest: l.harvest,
        },
      })),
    ),
  };
}

function requireMaker(role: Role): void {
  if (!MAKERS.includes(role))
    throw new Problem({
      status: 403,
      code: 'not-allowed',
      detail: 'whole tables are for owners and makers to take away',
    });
}

/** The workshop’s tables, events and plots, to take away. */
export function formatRoutes(app: App): void {
  app.get(
    '/api/tables/:name.csv',
    {
      schema: {
        tags: ['files'],
        summary: 'A whole table as CSV: one row one thing, units in the heading; streamed',
        params: z.object({ name: z.enum(TABLE_NAMES) }),
      },
    },
    async (request, reply) => {
      requireMaker(request.person!.role);
      const { store } = request;
      await store.writer.settleStream();
      const { name } = request.params;
      const { currency } = await loadSettings(store.db);
      return reply
        .type('text/csv; charset=utf-8')
        .header('content-disposition', `attachment; filename="${name}.csv"`)
        .send(
          Readable.from(tableCsv(store.db, name, currency), {
            objectMode: false,
          }),
        );
    },
  );
  app.get(
    '/api/events.epcis.jsonld',
    {
      schema: {
        tags: ['files'],
        summary:
          'What came, became something else and left, as EPCIS 2.0 (JSON-LD); streamed, for owners and makers',
      },
    },
    async (request, reply) => {
      requireMaker(request.person!.role);
      const { store } = request;
      await store.writer.settleStream();
      return reply
        .type('application/ld+json; charset=utf-8')
        .header('content-disposition', 'attachment; filename="events.epcis.jsonld"')
        .send(
          Readable.from(epcisDocument(store.db, new Date(store.now()).toISOString()), { objectMode: false }),
        );
    },
  );
  app.get(
    '/api/plots.geojson',
    { schema: { tags: ['files'], summary: 'Where all lots grew, as GeoJSON' } },
    async (request, reply) =>
      reply
        .type('application/geo+json; charset=utf-8')
        .header('content-disposition', 'attachment; filename="plots.geojson"')
        .send(JSON.stringify(await plotsOf(request.store.db))),
  );
}
