import { and, asc, desc, eq, gt, isNull, ne, or, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { z } from 'zod';
import {
  BatchBrief,
  BatchPut,
  BatchState,
  BatchUpdate,
  BatchView,
  BenchView,
  CorrectionPut,
  MovementPut,
  ObservationPut,
  ParcelLeave,
  ParcelRecord,
  StepClose,
  StepPut,
  StepUpdate,
  TrailItem,
  UndoPut,
} from '@wunsch/contract';
import type { App } from '../app.ts';
import { batch, lot, parcel, trail } from '../db/schema/index.ts';
import { Answer, answer, IdParams, ifMatchOf, write } from '../routes.ts';
import { batchView } from '../views/batchView.ts';
import { benchView } from '../views/benchView.ts';
import { loadBriefs } from '../views/bundle.ts';

/** Batches, steps, weights, observations, stock and the trail. */
export function ledgerRoutes(app: App): void {
  const put = <S extends z.ZodType>(path: string, kind: string, body: S, summary: string, guarded = false) =>
    app.put(
      path,
      {
        schema: { tags: ['ledger'], summary, params: IdParams, body, response: { 200: Answer, 201: Answer } },
      },
      async (request, reply) => {
        const { id } = request.params as { id: string };
        const sent = guarded ? { ...(request.body as object), ifMatch: ifMatchOf(request) } : request.body;
        return answer(reply, id, await write(app, request, kind, id, sent));
      },
    );

  put('/api/batches/:id', 'batch.start', BatchPut, 'Start a batch from a lot');
  put(
    '/api/batches/:id/facts',
    'batch.update',
    BatchUpdate,
    'Change a batch’s code, plan or recipe (If-Match)',
    true,
  );
  put('/api/batches/:id/state', 'batch.state', BatchState, 'Finish, reopen, void or abandon a batch');
  put('/api/steps/:id', 'step.open', StepPut, 'Open a step at a station');
  put('/api/steps/:id/details', 'step.update', StepUpdate, 'Change a step’s details (If-Match)', true);
  put(
    '/api/steps/:id/close',
    'step.close',
    StepClose,
    'Close a step; inputs must equal outputs plus named losses',
  );
  put(
    '/api/steps/:id/void',
    'step.void',
    z.object({ reason: z.string().max(400).default('') }),
    'Void a step; all it took goes back',
  );
  put('/api/leaves/:id', 'parcel.leave', ParcelLeave, 'Material leaves the workshop');
  put('/api/movements/:id', 'movement.add', MovementPut, 'Weigh something in, out, or as a loss');
  put(
    '/api/corrections/:id',
    'movement.correct',
    CorrectionPut,
    'Correct a weight; the old one stays readable',
  );
  put(
    '/api/observations/:id',
    'observation.add',
    ObservationPut,
    'Note a reading, event, test, timer or remark',
  );
  put('/api/undos/:id', 'undo', UndoPut, 'Take one’s own entry back');

  app.get(
    '/api/bench',
    { schema: { tags: ['ledger'], summary: 'The Bench and the line', response: { 200: BenchView } } },
    async () => benchView(app.store(), Date.now()),
  );

  app.get(
    '/api/batches/:id',
    {
      schema: {
        tags: ['ledger'],
        summary: 'Everything about one batch',
        params: IdParams,
        response: { 200: BatchView },
      },
    },
    async (request) => {
      await app.store().writer.settleStream();
      return batchView(app.store(), request.params.id, Date.now());
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
      return (await loadBriefs(app.store().db, where, limit)).map((r) => r.brief);
    },
  );

  const ofBatch = alias(lot, 'of_batch');
  app.get(
    '/api/stock',
    {
      schema: {
        tags: ['ledger'],
        summary: 'Every parcel with mass left, oldest first',
        response: { 200: z.array(ParcelRecord) },
      },
    },
    async () => {
      const rows = await app
        .store()
        .db.select({
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
        .orderBy(asc(parcel.madeAt))
        .limit(2000);
      return rows.map((r) => ({
        ...r.parcel,
        batchCode: r.batchCode,
        lotCode: r.lotCode,
        onHold: r.onHold ?? false,
      }));
    },
  );

  const TrailQuery = z.object({
    batchId: z.uuid().optional(),
    mine: z.stringbool().optional(),
    limit: z.coerce.number().int().min(1).max(500).default(60),
  });
  app.get(
    '/api/trail',
    {
      schema: {
        tags: ['ledger'],
        summary: 'Who did what, newest first',
        querystring: TrailQuery,
        response: { 200: z.array(TrailItem) },
      },
    },
    async (request) => {
      const { batchId, mine, limit } = request.query;
      const where = and(
        batchId ? eq(trail.batchId, batchId) : undefined,
        mine
          ? and(eq(trail.personId, request.person!.id), eq(trail.undoable, true), isNull(trail.undoneBy))
          : undefined,
        sql`${trail.kind} not like 'session.%'`,
      );
      const rows = await app
        .store()
        .db.select()
        .from(trail)
        .where(where)
        .orderBy(desc(trail.seq))
        .limit(limit);
      return rows.map(({ body, undoneBy, undoable: _, ...r }) => ({
        ...r,
        undone: undoneBy !== null,
        summary: summaryOf(r.kind, body),
      }));
    },
  );
}

/** The parts of an entry worth a line in the trail; never passwords or tokens. */
function summaryOf(kind: string, body: unknown): Record<string, unknown> {
  if (
    body === null ||
    typeof body !== 'object' ||
    kind.startsWith('person') ||
    kind === 'workshop.setup' ||
    kind === 'machine.token'
  )
    return {};
  const keep = [
    'code',
    'name',
    'massMg',
    'direction',
    'material',
    'reason',
    'label',
    'station',
    'data',
    'state',
    'remainder',
    'seq',
    'stepId',
    'movementId',
    'count',
  ];
  return Object.fromEntries(Object.entries(body).filter(([key]) => keep.includes(key)));
}
