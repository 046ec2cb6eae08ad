import { and, asc, eq, notInArray, or, sql } from 'drizzle-orm';
import { z } from 'zod';
import { Lot, LotView, Plots } from '@wunsch/contract';
import type { App } from '../../http/types.ts';
import { attachment, batch, lot, movement, observation, parcel, step } from '../../db/schema/index.ts';
import { notFound } from '../../http/problem.ts';
import { IdParams } from '../../http/entries.ts';
import { lotRecord } from '../../views/batchView.ts';
import { listBriefs, loadWhere } from '../../views/bundle.ts';
import { isOfLot, lotLeft } from '../../views/lotShelf.ts';
import { inForce } from '../../ledger/parcels.ts';
import { loadPastYields } from '../../views/yields.ts';
import { loadAttachments } from '../../attachments/attachments.ts';

/** Lots: receiving, changing, reading. */
export function beansRoutes(app: App): void {
  const tags = ['beans'];
  app.get(
    '/api/lots/:id/plots.geojson',
    { schema: { tags, summary: 'The lot’s plots as GeoJSON', params: IdParams, response: { 200: Plots } } },
    async (request, reply) => {
      const [row] = await request.store.db
        .select({ code: lot.code, plots: lot.plots })
        .from(lot)
        .where(and(eq(lot.id, request.params.id), eq(lot.voided, false)));
      if (!row?.plots) throw notFound('plots of lot', request.params.id);
      return reply
        .header('content-type', 'application/geo+json')
        .header('content-disposition', `attachment; filename="${encodeURIComponent(row.code)}.geojson"`)
        .send(row.plots);
    },
  );
  app.get(
    '/api/lots',
    {
      config: { cached: true },
      schema: { tags, summary: 'Lots, oldest first', response: { 200: z.array(Lot) } },
    },
    async (request) => {
      const rows = await request.store.db
        .select({ lot, remaining: lotLeft(lot.id, lot.parcelId) })
        .from(lot)
        .where(eq(lot.voided, false))
        .orderBy(asc(lot.receivedOn), asc(lot.code), asc(lot.id));
      return rows.map((r) => lotRecord(r.lot, r.remaining));
    },
  );
  app.get(
    '/api/lots/:id',
    {
      config: { cached: true },
      schema: {
        tags,
        summary: 'A lot with its batches and yields',
        params: IdParams,
        response: { 200: LotView },
      },
    },
    async (request) => {
      const { db } = request.store;
      const [row] = await db
        .select({ lot, remaining: lotLeft(lot.id, lot.parcelId) })
        .from(lot)
        .where(and(eq(lot.id, request.params.id), eq(lot.voided, false)));
      if (!row) throw notFound('lot', request.params.id);
      const batches = await listBriefs(db, eq(batch.lotId, row.lot.id), 200);
      const past = await loadPastYields(db, [row.lot.id]);
      const isOwn = (y: { lotId: string }) => y.lotId === row.lot.id;
      const observations = await loadWhere(db, eq(observation.lotId, row.lot.id));
      const draws = await db
        .select({ at: movement.at, massMg: movement.massMg })
        .from(movement)
        // What is only parted, put together or drained stays.
        .innerJoin(step, and(eq(step.id, movement.stepId), notInArray(step.kind, ['part', 'drain'])))
        .where(
          and(
            sql`${movement.parcelId} in (select q.id from parcel q where ${isOfLot(sql`${row.lot.id}::uuid`, sql`${row.lot.parcelId}::uuid`)})`,
            eq(movement.direction, 'in'),
            inForce,
          ),
        )
        .orderBy(asc(movement.at), asc(movement.id));
      const [juice] = await db
        .select({ massMg: sql<number>`coalesce(sum(${movement.massMg}), 0)::float8`.mapWith(Number) })
        .from(parcel)
        .innerJoin(movement, and(eq(movement.parcelId, parcel.id), eq(movement.direction, 'out'), inForce))
        .innerJoin(step, and(eq(step.id, movement.stepId), eq(step.kind, 'drain')))
        .where(and(eq(parcel.lotId, row.lot.id), eq(parcel.material, 'juice')));
      const kin = await db
        .select({ id: lot.id, code: lot.code, name: lot.name, fromLotId: lot.fromLotId })
        .from(lot)
        .where(
          and(
            eq(lot.voided, false),
            or(eq(lot.fromLotId, row.lot.id), row.lot.fromLotId ? eq(lot.id, row.lot.fromLotId) : undefined),
          ),
        )
        .orderBy(asc(lot.receivedOn), asc(lot.code), asc(lot.id));
      return {
        lot: lotRecord(row.lot, row.remaining),
        batches,
        yields: past.filter(isOwn),
        elsewhere: past
          .filter((y) => !isOwn(y))
          .map(({ station, lotId, value }) => ({ station, lotId, value })),
        observations,
        attachments: await loadAttachments(db, eq(attachment.lotId, row.lot.id)),
        draws,
        juiceMg: juice?.massMg ?? 0,
        family: kin.map(({ fromLotId, ...k }) => ({
          ...k,
          relation: fromLotId === row.lot.id ? ('into' as const) : ('from' as const),
        })),
      };
    },
  );
}
