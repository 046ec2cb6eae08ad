import { and, desc, eq, gt, ilike, isNull, ne, notInArray, or, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { z } from 'zod';
import { BatchBrief, BatchView, BenchView, ParcelRecord } from '@wunsch/contract';
import { BESIDE_WORK } from '@wunsch/core/ledger';
import type { App } from '../http/types.ts';
import { alike } from '../db/raw.ts';
import { batch, lot, parcel } from '../db/schema/index.ts';
import { IdParams } from '../http/entries.ts';
import { batchView } from '../views/batchView.ts';
import { benchView } from '../views/benchView.ts';
import { listBriefs } from '../views/bundle.ts';
import { whenMade } from './days.ts';

/** Most batches that are told at once: decades of a workshop. */
const MOST_BATCHES = 20_000;

/** Most parcels that are told at once. Where there are more, all lots come along, and of the rest the newest. */
const MOST_PARCELS = 2000;

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
    /** What their codes begin with. */
    code: z.string().max(60).optional(),
    limit: z.coerce.number().int().min(1).max(MOST_BATCHES).default(100),
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
      const { state, lotId, code, limit } = request.query;
      const where = and(
        state ? eq(batch.state, state) : undefined,
        lotId ? eq(batch.lotId, lotId) : undefined,
        code ? ilike(batch.code, `${alike(code)}%`) : undefined,
      );
      return listBriefs(request.store.db, where, limit);
    },
  );

  const ofBatch = alias(lot, 'of_batch');
  app.get(
    '/api/stock',
    {
      config: { cached: true },
      schema: {
        tags: ['ledger'],
        summary:
          'Parcels with mass left, oldest first: lots and the newest of all others, or of those that work is usually done with',
        querystring: z.object({ of: z.enum(['everything', 'work']).default('everything') }),
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
        .where(
          and(
            gt(parcel.remainingMg, 0),
            or(isNull(batch.state), ne(batch.state, 'void')),
            request.query.of === 'work' ? notInArray(parcel.material, [...BESIDE_WORK]) : undefined,
          ),
        )
        .orderBy(isNull(parcel.lotId), desc(parcel.madeAt), desc(parcel.id))
        .limit(MOST_PARCELS);
      return rows
        .map((r) => ({
          ...r.parcel,
          batchCode: r.batchCode,
          lotCode: r.lotCode,
          onHold: r.parcel.onHold || (r.onHold ?? false),
          madeAt: whenMade(r.parcel),
        }))
        .sort((a, b) => a.madeAt.localeCompare(b.madeAt) || a.id.localeCompare(b.id));
    },
  );
}
