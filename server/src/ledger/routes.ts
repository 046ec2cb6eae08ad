import { and, asc, eq, gt, isNull, ne, or, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { z } from 'zod';
import { BatchBrief, BatchView, BenchView, ParcelRecord } from '@wunsch/contract';
import type { App } from '../http/types.ts';
import { batch, lot, parcel } from '../db/schema/index.ts';
import { IdParams } from '../http/entries.ts';
import { batchView } from '../views/batchView.ts';
import { benchView } from '../views/benchView.ts';
import { loadBriefs } from '../views/bundle.ts';

/** The Bench, batches and stock. */
export function ledgerRoutes(app: App): void {
  app.get(
    '/api/bench',
    {
      config: { cached: true },
      schema: { tags: ['ledger'], summary: 'The Bench and the line', response: { 200: BenchView } },
    },
    async (request) => benchView(request.store, request.store.now()),
  );

  app.get(
    '/api/batches/:id',
    {
      config: { cached: true },
      schema: {
        tags: ['ledger'],
        summary: 'Everything about one batch',
        params: IdParams,
        response: { 200: BatchView },
      },
    },
    async (request) => {
      await request.store.writer.settleStream();
      return batchView(request.store, request.params.id, request.store.now());
    },
  );

  const ListQuery = z.object({
    state: z.enum(['open', 'finished', 'void', 'abandoned']).optional(),
    lotId: z.uuid().optional(),
    limit: z.coerce.number().int().min(1).max(500).default(100),
  });
  app.get(
    '/api/batches',
    {
      config: { cached: true },
      schema: {
        tags: ['ledger'],
        summary: 'Batches, newest first',
        querystring: ListQuery,
        response: { 200: z.array(BatchBrief) },
      },
    },
    async (request) => {
      const { state, lotId, limit } = request.query;
      const where = and(
        state ? eq(batch.state, state) : undefined,
        lotId ? eq(batch.lotId, lotId) : undefined,
      );
      return (await loadBriefs(request.store.db, where, limit)).map((r) => r.brief);
    },
  );

  const ofBatch = alias(lot, 'of_batch');
  app.get(
    '/api/stock',
    {
      config: { cached: true },
      schema: {
        tags: ['ledger'],
        summary: 'Every parcel with mass left, oldest first',
        response: { 200: z.array(ParcelRecord) },
      },
    },
    async (request) => {
      const rows = await request.store.db
        .select({
          parcel,
          batchCode: batch.code,
          lotCode: sql<string | null>`coalesce(${lot.code}, ${ofBatch.code})`,
          onHold: lot.onHold,
        })
        .from(parcel)
        .leftJoin(batch, eq(batch.id, parcel.batchId))
        .leftJoin(lot, eq(lot.id, parcel.lotId))
        .leftJoin(ofBatch, eq(ofBatch.id, batch.lotId))
        .where(and(gt(parcel.remainingMg, 0), or(isNull(batch.state), ne(batch.state, 'void'))))
        .orderBy(asc(parcel.madeAt), asc(parcel.id))
        .limit(2000);
      return rows.map((r) => ({
        ...r.parcel,
        batchCode: r.batchCode,
        lotCode: r.lotCode,
        onHold: r.onHold ?? false,
      }));
    },
  );
}
