import { and, eq, isNull } from 'drizzle-orm';
import { ObservationPut } from '@wunsch/contract';
import { handler, lineOf, MAKERS, type Context } from '../commands/command.ts';
import { lot, observation } from '../db/schema/index.ts';
import { notFound, Problem } from '../http/problem.ts';
import { getStep, requireBatch } from './parcels.ts';
import type { StepRow } from './steps.ts';

/** Noting something beside weights, or correcting such a note. */
export const observationAdd = handler({
  kind: 'observation.add',
  version: 1,
  put: {
    path: '/api/observations/:id',
    summary: 'Note a reading, event, test, timer or remark',
    tag: 'ledger',
  },
  body: ObservationPut,
  roles: MAKERS,
  creates: true,
  touches: ['observations', 'batches', 'timers'],
  line: lineOf('data', 'stepId'),
  keepsRead: true,
  async apply(context) {
    const step = await addObservation(context, context.target, context.body);
    // A reading added to a finished run changes what its machine has learned.
    return {
      batchId: step ? step.batchId : context.body.batchId,
      ...(step?.status === 'closed' && { touches: ['runs'] as const }),
    };
  },
  async undo({ tx }, { target, body }) {
    await tx.update(observation).set({ voided: true }).where(eq(observation.id, target));
    if (body.replaces)
      await tx.update(observation).set({ replacedBy: null }).where(eq(observation.id, body.replaces));
  },
});

type Body = typeof ObservationPut._output;

/**
 * Notes something beside weights.
 *
 * @returns the step it is of, if any
 * @throws Problem 404 for what is not there, 422 for a reading that says nothing
 */
export async function addObservation(context: Context, id: string, body: Body): Promise<StepRow | null> {
  const { tx, at, by, seq } = context;
  const step = body.stepId ? await getStep(context, body.stepId) : null;
  const batchId = step ? step.batchId : body.batchId;
  if (body.data.kind === 'grit' && body.data.um === null && body.data.tongue === null) {
    throw new Problem({
      status: 422,
      code: 'no-reading',
      field: 'data.um',
      detail: 'a grit reading needs a number in µm or a word from the tongue',
    });
  }
  if (body.batchId) await requireBatch(context, body.batchId);
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
    await tx.update(observation).set({ replacedBy: id }).where(eq(observation.id, old.id));
  }
  await context.rows.add(observation, [
    {
      id,
      batchId,
      stepId: body.stepId,
      lotId: body.lotId ?? null,
      kind: body.data.kind,
      data: body.data,
      at: body.at ?? at,
      by,
      seq,
      replaces: body.replaces,
    },
  ]);
  return step;
}
