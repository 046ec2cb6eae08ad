import { asc, eq } from 'drizzle-orm';
import { z } from 'zod';
import { Sample, SamplePut } from '@wunsch/contract';
import { requireMatch } from '../../access/match.ts';
import type { App } from '../../http/types.ts';
import { handler, lineOf, TASTERS, withMatch } from '../../commands/command.ts';
import { sample } from '../../db/schema/index.ts';

/** Noting or changing a sample and the decision it led to; earlier states stay in the trail. */
export const samplePut = handler({
  kind: 'sample.put',
  version: 1,
  put: {
    path: '/api/samples/:id',
    summary: 'Note a sample, its tastings and the decision (If-Match to change)',
    tag: 'beans',
    body: SamplePut,
    guarded: true,
  },
  body: withMatch(SamplePut),
  roles: TASTERS,
  touches: ['samples'],
  line: lineOf('name'),
  keepsRead: true,
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
  app.get(
    '/api/samples',
    {
      config: { cached: true },
      schema: { tags, summary: 'Samples, oldest first', response: { 200: z.array(Sample) } },
    },
    async (request) => {
      const rows = await request.store.db
        .select()
        .from(sample)
        .orderBy(asc(sample.createdAt), asc(sample.id));
      return rows.map(({ facts, ...row }) => ({ ...facts, ...row }));
    },
  );
}
