import { and, eq, isNull } from 'drizzle-orm';
import { ObservationPut } from '@wunsch/contract';
import { handler, MAKERS } from '../commands/command.ts';
import { lot, observation } from '../db/schema/index.ts';
import { notFound, Problem } from '../formats/problem.ts';
import { getStep } from './parcels.ts';

/** Noting something beside weights, or correcting such a note. */
export const observationAdd = handler({
  kind: 'observation.add',
  body: ObservationPut,
  roles: MAKERS,
  async apply(context) {
    const { tx, target, body, at, by, seq } = context;
    const [used] = context.careful
      ? await tx.select({ id: observation.id }).from(observation).where(eq(observation.id, target))
      : [];
    if (used)
      throw new Problem({
        status: 409,
        code: 'id-used',
        detail: `the id ${target} already names another entry; make a new id`,
      });
    const batchId = body.stepId ? (await getStep(context, body.stepId)).batchId : body.batchId;
    if (body.data.kind === 'grit' && body.data.um === null && body.data.tongue === null) {
      throw new Problem({
        status: 422,
        code: 'no-reading',
        field: 'data.um',
        detail: 'a grit reading needs a number in µm or a word from the tongue',
      });
    }
    if (body.lotId) {
      const [there] = await tx.select({ id: lot.id }).from(lot).where(eq(lot.id, body.lotId));
      if (!there) throw notFound('lot', body.lotId);
    }
    if (body.replaces) {
      const [old] = await tx
        .select()
        .from(observation)
        .where(and(eq(observation.id, body.replaces), isNull(observation.replacedBy)));
      if (!old) throw notFound('entry', body.replaces);
      if (old.kind !== body.data.kind)
        throw new Problem({
          status: 422,
          code: 'other-kind',
          field: 'data.kind',
          detail: `a ${old.kind} cannot be corrected into a ${body.data.kind}`,
        });
      await tx.update(observation).set({ replacedBy: target }).where(eq(observation.id, old.id));
    }
    await tx.insert(observation).values({
      id: target,
      batchId,
      stepId: body.stepId,
      lotId: body.lotId ?? null,
      kind: body.data.kind,
      data: body.data,
      at: body.at ?? at,
      by,
      seq,
      replaces: body.replaces,
    });
    return { batchId };
  },
  async undo({ tx }, { target, body }) {
    await tx.update(observation).set({ voided: true }).where(eq(observation.id, target));
    if (body.replaces)
      await tx.update(observation).set({ replacedBy: null }).where(eq(observation.id, body.replaces));
  },
});
