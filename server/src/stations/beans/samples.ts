import { asc, eq } from 'drizzle-orm';
import { z } from 'zod';
import { Sample, SamplePut } from '@wunsch/contract';
import { requireMatch } from '../../access/handlers.ts';
import type { App } from '../../app.ts';
import { handler, MAKERS } from '../../commands/command.ts';
import { sample } from '../../db/schema/index.ts';
import { Answer, answer, IdParams, ifMatchOf, write } from '../../routes.ts';

/** Noting or changing a sample and the decision it led to; earlier states stay in the trail. */
export const samplePut = handler({
  kind: 'sample.put',
  body: SamplePut.extend({ ifMatch: z.int().nullable().default(null) }),
  roles: [...MAKERS, 'taster'],
  async apply({ tx, target, at, body: { ifMatch, ...facts } }) {
    const [old] = await tx.select().from(sample).where(eq(sample.id, target));
    if (!old) {
      await tx.insert(sample).values({ id: target, facts, createdAt: at });
      return;
    }
    requireMatch(ifMatch, old.version, 'sample');
    await tx
      .update(sample)
      .set({ facts, version: old.version + 1 })
      .where(eq(sample.id, target));
  },
});

/** Samples before buying. */
export function sampleRoutes(app: App): void {
  const tags = ['beans'];
  app.put(
    '/api/samples/:id',
    {
      schema: {
        tags,
        summary: 'Note a sample, its tastings and the decision (If-Match to change)',
        params: IdParams,
        body: SamplePut,
        response: { 200: Answer, 201: Answer },
      },
    },
    async (request, reply) => {
      const body = { ...request.body, ifMatch: ifMatchOf(request) };
      return answer(
        reply,
        request.params.id,
        await write(app, request, 'sample.put', request.params.id, body),
      );
    },
  );
  app.get(
    '/api/samples',
    { schema: { tags, summary: 'Samples, oldest first', response: { 200: z.array(Sample) } } },
    async () => {
      const rows = await app.store().db.select().from(sample).orderBy(asc(sample.createdAt));
      return rows.map(({ facts, ...row }) => ({ ...facts, ...row }));
    },
  );
}
