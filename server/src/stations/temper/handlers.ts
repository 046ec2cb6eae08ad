import { MovementPut, TemperOut } from '@wunsch/contract';
import { handler, lineOf, MAKERS, type Context } from '../../commands/command.ts';
import { step } from '../../db/schema/index.ts';
import { finishStep, unfinishStep, type Output } from '../../ledger/compound.ts';
import { addLine } from '../../ledger/movements.ts';
import { endingStep, keptBackwards, requireKind, voidStep, type StepRow } from '../../ledger/steps.ts';

type Body = typeof TemperOut._output;

function outputsOf({ massMg, movementId, parcelId, rework }: Body): Output[] {
  return [
    { movementId, parcelId, massMg, material: 'tempered chocolate' },
    ...(rework ? [{ ...rework, material: 'rework' }] : []),
  ];
}

/** Opens a moulding with all of it in, so that nothing is weighed twice while the bowl is in its window. */
async function pour(
  context: Context<Body>,
  { batchId, endedAt }: StepRow,
  { stepId, movementId }: NonNullable<Body['pour']>,
): Promise<void> {
  const { tx, at, by, body } = context;
  await tx.insert(step).values({
    id: stepId,
    batchId,
    station: 'mould',
    kind: 'mould',
    startedAt: endedAt ?? at,
    details: {},
    by,
  });
  await addLine(context, movementId, MovementPut.parse({ stepId, direction: 'in', parcelId: body.parcelId }));
}

/** Tempering ends: to the moulds, drained back, and what stays in the bowl, in one act. */
export const temperOut = handler({
  kind: 'temper.out',
  version: 2,
  upcasters: { 1: keptBackwards },
  put: {
    path: '/api/steps/:id/tempered',
    summary: 'End a tempering in one act: to the moulds, drained back, hold-up named',
    tag: 'temper',
    body: TemperOut,
  },
  body: endingStep(TemperOut),
  roles: MAKERS,
  touches: ['batches', 'stock', 'yields', 'readings'],
  line: lineOf('massMg'),
  async apply(context) {
    await requireKind(context, context.target, 'temper');
    const { body } = context;
    const ended = await finishStep(context, context.target, outputsOf(body), body);
    if (body.pour) await pour(context, ended, body.pour);
    return { batchId: ended.batchId };
  },
  async undo(context, { target, body }) {
    if (body.pour) await voidStep(context, body.pour.stepId);
    await unfinishStep(context, target, outputsOf(body));
  },
});
