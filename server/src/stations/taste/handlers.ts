import { eq } from 'drizzle-orm';
import { TastingPut } from '@wunsch/contract';
import { handler, TASTERS } from '../../commands/command.ts';
import { batch, tasting } from '../../db/schema/index.ts';
import { notFound } from '../../http/problem.ts';

/** Recording one person's tasting of a batch. */
export const tastingAdd = handler({
  kind: 'tasting.add',
  version: 1,
  put: { path: '/api/tastings/:id', summary: 'One person’s tasting of a batch', tag: 'taste' },
  body: TastingPut,
  roles: TASTERS,
  creates: true,
  touches: ['tastings', 'batches'],
  keepsRead: true,
  async apply({ tx, target, body, at, by, personId, seq }) {
    const [of] = await tx.select({ id: batch.id }).from(batch).where(eq(batch.id, body.batchId));
    if (!of) throw notFound('batch', body.batchId);
    await tx
      .insert(tasting)
      .values({ id: target, batchId: body.batchId, personId, by, at: body.at ?? at, card: body.card, seq });
    return { batchId: body.batchId };
  },
  async undo({ tx }, { target }) {
    await tx.update(tasting).set({ voided: true }).where(eq(tasting.id, target));
  },
});
