import { eq } from 'drizzle-orm';
import { TastingPut } from '@wunsch/contract';
import { handler } from '../../commands/command.ts';
import { batch, tasting } from '../../db/schema/index.ts';
import { notFound, Problem } from '../../formats/problem.ts';

/** Recording one person's tasting of a batch. */
export const tastingAdd = handler({
  kind: 'tasting.add',
  body: TastingPut,
  roles: ['owner', 'maker', 'taster'],
  async apply({ tx, target, body, at, by, personId, seq }) {
    const [used] = await tx.select({ id: tasting.id }).from(tasting).where(eq(tasting.id, target));
    if (used)
      throw new Problem({
        status: 409,
        code: 'id-used',
        detail: `the id ${target} already names another tasting; make a new id`,
      });
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
