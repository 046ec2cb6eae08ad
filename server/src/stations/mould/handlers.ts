import { eq } from 'drizzle-orm';
import { MouldDone } from '@wunsch/contract';
import { handler, lineOf, MAKERS } from '../../commands/command.ts';
import { step } from '../../db/schema/index.ts';
import { finishStep, unfinishStep, type NamedLoss, type Output } from '../../ledger/compound.ts';
import { endingStep, keptBackwards, requireKind } from '../../ledger/steps.ts';

type Body = typeof MouldDone._output;

function lossesOf({ holdUp }: Body): NamedLoss[] {
  return holdUp ? [{ ...holdUp, reason: 'hold-up' }] : [];
}

function outputsOf({ made, rework }: Body): Output[] {
  return [...made, ...(rework ? [{ ...rework, material: 'rework' }] : [])];
}

/** Moulding ends: bars and blocks counted, left-overs weighed, hold-up named, the label's facts kept, in one act. */
export const mouldDone = handler({
  kind: 'mould.done',
  version: 2,
  upcasters: { 1: keptBackwards },
  put: {
    path: '/api/steps/:id/moulded',
    summary: 'End a moulding in one act: bars, blocks and left-overs, hold-up named, the label’s facts kept',
    tag: 'mould',
    body: MouldDone,
  },
  body: endingStep(MouldDone),
  roles: MAKERS,
  touches: ['batches', 'stock', 'yields'],
  line: (body) => ({
    ...lineOf('remainder')(body),
    count: body.made.reduce((sum, m) => sum + (m.material === 'bars' ? m.count : 0), 0),
  }),
  async apply(context) {
    const { tx, target, body } = context;
    const row = await requireKind(context, target, 'mould');
    await tx
      .update(step)
      .set({ details: { ...row.details, ...body.details } })
      .where(eq(step.id, target));
    const { batchId } = await finishStep(context, target, outputsOf(body), body, lossesOf(body));
    return { batchId };
  },
  async undo(context, { target, body }) {
    await unfinishStep(context, target, [...outputsOf(body), ...lossesOf(body)]);
  },
});
