import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { BarReport, BatchPages, PublicBar } from '@wunsch/contract';
import { faultCase } from '../db/schema/index.ts';
import { IdParams } from '../http/entries.ts';
import type { App } from '../http/types.ts';
import { loadSettings } from '../views/settings.ts';
import { batchPages, publicBar, publishedBars } from './page.ts';

/** Most looks at pages, and reports, of one address in the time. */
const LOOKS = { max: 60, timeWindow: 60_000 };
const REPORTS = { max: 5, timeWindow: 10 * 60_000 };

/** A photograph of a bar with its report, bytes as base64 and some room. */
const REPORT_LIMIT = 3 * 1024 * 1024;

const Code = z.object({ code: z.string().trim().min(1).max(60) });
const Language = z.object({ language: z.enum(['en', 'de', 'fr']).default('en') });

/** What anyone may see and say of a bar: no sign-in, no cookie, nothing counted. */
export function publicBarRoutes(app: App): void {
  const tags = ['pages'];
  app.get(
    '/api/bar/:code',
    {
      schema: {
        tags,
        summary: 'The public page of a bar, by the code on it; 404 unless its maker has switched it on',
        params: Code,
        querystring: Language,
        response: { 200: PublicBar },
      },
      config: { rateLimit: LOOKS },
    },
    async (request, reply) => {
      const page = await publicBar(request.home, request.params.code, request.query.language);
      void reply.header('cache-control', 'public, max-age=60');
      return page;
    },
  );
  app.post(
    '/api/bar/:code/report',
    {
      schema: {
        tags,
        summary: 'Tell the maker that something is wrong with a bar',
        params: Code,
        body: BarReport,
        response: { 201: z.object({ received: z.boolean() }) },
      },
      config: { rateLimit: REPORTS },
      bodyLimit: REPORT_LIMIT,
    },
    async (request, reply) => {
      const { home } = request;
      const { id, photo, ...told } = request.body;
      const { code, batchId } = await publishedBars(home.db, request.params.code);
      const actor = { id: null, initials: 'public', role: 'taster' as const };
      const [known] = await home.db.select({ id: faultCase.id }).from(faultCase).where(eq(faultCase.id, id));
      // Sent again after a lost answer, or an id somebody else has used: nothing is told of either.
      if (!known) {
        await home.writer.submit({
          kind: 'case.open',
          target: id,
          actor,
          body: { ...told, code, batchId, from: 'public' },
        });
        if (photo)
          await home.writer.submit({
            kind: 'attachment.add',
            target: crypto.randomUUID(),
            actor,
            body: { ...photo, caseId: id },
          });
      }
      return reply.code(201).send({ received: true });
    },
  );
}

/** What is switched on, for those who switch it. */
export function pageRoutes(app: App): void {
  app.get(
    '/api/pages/of-batch/:id',
    {
      schema: {
        tags: ['pages'],
        summary: 'What anyone may see of a batch’s bars, and under which addresses',
        params: IdParams,
        response: { 200: BatchPages },
      },
    },
    async (request) => {
      const { db } = request.store;
      const base = (await loadSettings(db)).publicAddress || `${request.protocol}://${request.host}`;
      return batchPages(db, request.params.id, base);
    },
  );
}
