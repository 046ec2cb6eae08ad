import { and, asc, eq } from 'drizzle-orm';
import { z } from 'zod';
import { BatchBrief, Lot, LotPut, LotUpdate } from '@wunsch/contract';
import type { App } from '../../app.ts';
import { batch, lot, parcel } from '../../db/schema/index.ts';
import { notFound } from '../../formats/problem.ts';
import { Answer, answer, IdParams, ifMatchOf, write } from '../../routes.ts';
import { lotRecord } from '../../views/batchView.ts';
import { loadBriefs } from '../../views/bundle.ts';
import { loadPastYields } from '../../views/yields.ts';

const LotView = z.object({
  lot: Lot,
  batches: z.array(BatchBrief),
  yields: z.array(
    z.object({
      station: z.string(),
      batchId: z.string(),
      batchCode: z.string(),
      value: z.number(),
      startedAt: z.string(),
    }),
  ),
});

/** Lots: receiving, changing, reading. */
export function beansRoutes(app: App): void {
  const tags = ['beans'];
  app.put(
    '/api/lots/:id',
    {
      schema: {
        tags,
        summary: 'Receive a lot',
        params: IdParams,
        body: LotPut,
        response: { 200: Answer, 201: Answer },
      },
    },
    async (request, reply) =>
      answer(
        reply,
        request.params.id,
        await write(app, request, 'lot.receive', request.params.id, request.body),
      ),
  );
  app.put(
    '/api/lots/:id/facts',
    {
      schema: {
        tags,
        summary: 'Change a lot’s facts or put it on hold (If-Match)',
        params: IdParams,
        body: LotUpdate,
        response: { 200: Answer, 201: Answer },
      },
    },
    async (request, reply) =>
      answer(
        reply,
        request.params.id,
        await write(app, request, 'lot.update', request.params.id, {
          ...request.body,
          ifMatch: ifMatchOf(request),
        }),
      ),
  );
  app.get(
    '/api/lots',
    { schema: { tags, summary: 'Lots, oldest first', response: { 200: z.array(Lot) } } },
    async () => {
      const rows = await app
        .store()
        .db.select({ lot, remaining: parcel.remainingMg })
        .from(lot)
        .innerJoin(parcel, eq(parcel.id, lot.parcelId))
        .where(eq(lot.voided, false))
        .orderBy(asc(lot.receivedOn), asc(lot.code));
      return rows.map((r) => lotRecord(r.lot, r.remaining));
    },
  );
  app.get(
    '/api/lots/:id',
    {
      schema: {
        tags,
        summary: 'A lot with its batches and yields',
        params: IdParams,
        response: { 200: LotView },
      },
    },
    async (request) => {
      const { db } = app.store();
      const [row] = await db
        .select({ lot, remaining: parcel.remainingMg })
        .from(lot)
        .innerJoin(parcel, eq(parcel.id, lot.parcelId))
        .where(and(eq(lot.id, request.params.id), eq(lot.voided, false)));
      if (!row) throw notFound('lot', request.params.id);
      const batches = (await loadBriefs(db, eq(batch.lotId, row.lot.id), 200)).map((r) => r.brief);
      const yields = (await loadPastYields(db, [row.lot.id])).filter((y) => y.lotId === row.lot.id);
      return { lot: lotRecord(row.lot, row.remaining), batches, yields };
    },
  );
}
