import { z } from 'zod';
import { RecallRecord, TraceQuery, TraceView } from '@wunsch/contract';
import { IdParams } from '../http/entries.ts';
import { LanguageQuery, sendPdf } from '../http/paper.ts';
import { notFound } from '../http/problem.ts';
import type { App } from '../http/types.ts';
import { loadHours } from '../plan/loadRoom.ts';
import { loadSettings } from '../views/settings.ts';
import { recallReport } from './recallReport.ts';
import { loadRecalls } from './recalls.ts';
import { traceView } from './view.ts';

/** One step back, one forward, any depth; and recalls that were kept. */
export function traceRoutes(app: App): void {
  const tags = ['trace'];
  app.get(
    '/api/trace',
    {
      schema: {
        tags,
        summary:
          'Follow a lot, batch, parcel, delivery, ingredient, machine, person or code forward or back, with what a recall must know',
        querystring: TraceQuery,
        response: { 200: TraceView },
      },
    },
    async (request) => {
      await request.store.writer.settleStream();
      return traceView(request.store.db, request.query);
    },
  );

  app.get(
    '/api/recalls',
    {
      config: { cached: true },
      schema: {
        tags,
        summary: 'Recalls that were kept, newest first',
        response: { 200: z.array(RecallRecord) },
      },
    },
    (request) => loadRecalls(request.store.db),
  );

  app.get(
    '/api/recalls/:id',
    {
      config: { cached: true },
      schema: { tags, summary: 'One recall', params: IdParams, response: { 200: RecallRecord } },
    },
    async (request) => {
      const [found] = await loadRecalls(request.store.db, request.params.id);
      if (!found) throw notFound('recall', request.params.id);
      return found;
    },
  );

  app.get(
    '/api/recalls/:id/report.pdf',
    {
      schema: { tags, summary: 'A recall on paper, PDF', params: IdParams, querystring: LanguageQuery },
    },
    async (request, reply) => {
      const { db } = request.store;
      const [found] = await loadRecalls(db, request.params.id);
      if (!found) throw notFound('recall', request.params.id);
      const { timeZone } = await loadHours(db);
      const bytes = await recallReport(found, await loadSettings(db), request.query.language, timeZone);
      return sendPdf(reply, `recall-${found.number}`, bytes);
    },
  );
}
