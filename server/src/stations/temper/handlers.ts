import { TemperOut } from '@wunsch/contract';
import { handler, lineOf, MAKERS } from '../../commands/command.ts';
import { finishStep, unfinishStep, type Output } from '../../ledger/compound.ts';
import { requireKind } from '../../ledger/steps.ts';

type Body = typeof TemperOut._output;

function outputsOf({ massMg, movementId, parcelId, rework }: Body): Output[] {
  return [
    { movementId, parcelId, massMg, material: 'tempered chocolate' },
    ...(rework ? [{ ...rework, material: 'rework' }] : []),
  ];
}

/** Tempering ends: to the moulds, drained back, and what stays in the bowl, in one act. */
export const temperOut = handler({
  kind: 'temper.out',
  version: 1,
  put: {
    path: '/api/steps/:id/tempered',
    summary: 'End a tempering in one act: to the moulds, drained back, hold-up named',
    tag: 'temper',
  },
  body: TemperOut,
  roles: MAKERS,
  touches: ['batches', 'stock', 'yields', 'readings'],
  line: lineOf('massMg'),
  async apply(context) {
    await requireKind(context, context.target, 'temper');
    const { batchId } = await finishStep(context, context.target, outputsOf(context.body), context.body);
    return { batchId };
  },
  async undo(context, { target, body }) {
    await unfinishStep(context, target, outputsOf(body));
  },
});
