import { and, eq, inArray } from 'drizzle-orm';
import { MovementPut, workOf } from '@wunsch/contract';
import { handler, lineOf, MAKERS, type Context } from '../commands/command.ts';
import { ingredient, movement, observation, parcel, readings, step } from '../db/schema/index.ts';
import { Problem } from '../http/problem.ts';
import { addLine, voidMovement } from './movements.ts';
import { getStep, inForce, movementsOfStep, rebalance } from './parcels.ts';
import { openStep, voidStep } from './steps.ts';

/** Why what was set aside was used, in entries made before anybody asked. */
const HELD_BEFORE = 'used before it was asked';

/** Adding a line to a step. */
export const movementAdd = handler({
  kind: 'movement.add',
  version: 2,
  // Before that, an ingredient was taken off the shelf whether it was set aside or not.
  upcasters: {
    1: (body) => (body.ingredientId && !body.parcelId ? { holdOverride: HELD_BEFORE, ...body } : body),
  },
  put: { path: '/api/movements/:id', summary: 'Weigh something in, out, or as a loss', tag: 'ledger' },
  body: MovementPut,
  roles: MAKERS,
  creates: true,
  touches: ['batches', 'stock', 'lots'],
  line: lineOf('massMg', 'direction', 'material', 'reason', 'label', 'stepId', 'count'),
  keepsRead: true,
  foresees: ({ body: { stepId, parcelId, ingredientId, also = [] } }) => [
    [step, stepId],
    ...[parcelId, ...also.map((a) => a.parcelId)].flatMap((id) => (id ? [[parcel, id] as const] : [])),
    ...(ingredientId ? [[ingredient, ingredientId] as const] : []),
  ],
  async apply(context) {
    const { begins, stepId } = context.body;
    if (begins) await openStep(context, stepId, { ...begins, kind: workOf(begins)! });
    const row = await addLine(context, context.target, context.body);
    const { also = [], ...line } = context.body;
    for (const { id, parcelId } of also) await addLine(context, id, { ...line, parcelId });
    return {
      batchId: row.batchId,
      ...(row.status === 'closed' && { touches: ['yields', 'runs'] as const }),
    };
  },
  async undo(context, { target, body }) {
    const ids = [target, ...(body.also ?? []).map((a) => a.id)];
    const lines = await context.tx
      .select()
      .from(movement)
      .where(and(inArray(movement.id, ids), inForce));
    const line = lines.find((l) => l.id === target);
    if (!line || lines.length < ids.length)
      throw new Problem({
        status: 409,
        code: 'replaced-since',
        detail: 'this weight has been corrected or taken back since',
      });
    // What it began ends with it, unless there is more to it by now.
    if (body.begins && (await isAllOf(context, line.stepId, ids))) return voidStep(context, line.stepId);
    for (const each of lines) await voidMovement(context, each);
    const parts = await context.tx
      .select()
      .from(movement)
      .where(and(eq(movement.splitOf, target), inForce));
    for (const part of parts) await voidMovement(context, part);
    await rebalance(context, line.stepId);
  },
});

/** Whether a step is open and nothing but the lines named, and their parts, has come of it: no other weight, no observation, no reading. */
async function isAllOf(context: Context, stepId: string, ids: readonly string[]): Promise<boolean> {
  const row = await getStep(context, stepId);
  const lines = await movementsOfStep(context, stepId);
  if (row.status !== 'open' || lines.some((l) => !ids.includes(l.id) && !ids.includes(l.splitOf ?? '')))
    return false;
  const [seen] = await context.tx
    .select({ id: observation.id })
    .from(observation)
    .where(and(eq(observation.stepId, stepId), eq(observation.voided, false)))
    .limit(1);
  const [heard] = await context.tx
    .select({ id: readings.id })
    .from(readings)
    .where(and(eq(readings.stepId, stepId), eq(readings.voided, false)))
    .limit(1);
  return !seen && !heard;
}
