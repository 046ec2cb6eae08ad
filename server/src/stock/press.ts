import { LiquorPress } from '@wunsch/contract';
import { readPressing } from '@wunsch/core/grind';
import { handler, MAKERS } from '../commands/command.ts';
import { movement, parcel } from '../db/schema/index.ts';
import { Problem } from '../http/problem.ts';
import { besideStep, parcelOf, requireFree, sourceOf } from '../ledger/beside.ts';
import { changeParcel, takenFrom } from '../ledger/parcels.ts';
import { requireMachine, voidStep } from '../ledger/steps.ts';

/** Pressing liquor into cocoa butter and cake, in one act: what went in, both that came out, and what stayed in the press. */
export const liquorPress = handler({
  kind: 'liquor.press',
  version: 1,
  put: { path: '/api/pressings/:id', summary: 'Press liquor into cocoa butter and cake', tag: 'stock' },
  body: LiquorPress,
  roles: MAKERS,
  creates: true,
  touches: ['stock', 'batches', 'lots'],
  line: (body) => ({ massMg: body.massMg, butterMg: body.butter.massMg }),
  async apply(context) {
    const { tx, target, body } = context;
    const from = await parcelOf(context, body.parcelId);
    if (from.material !== 'liquor')
      throw new Problem({
        status: 422,
        code: 'may-not-enter',
        field: 'parcelId',
        detail: `a press takes liquor, not ${from.material}`,
        params: { material: from.material, kind: 'press', takes: ['liquor'] },
      });
    requireFree(from);
    const asked = { massMg: body.massMg, count: null };
    const { massMg } = takenFrom(from, asked);
    const lostMg = readingOf(massMg, body);
    await changeParcel(context, from.id, -massMg);
    if (body.machineId) await requireMachine(context, body.machineId);
    const line = await besideStep(context, { id: target, kind: 'press', of: from, work: body });
    const made = [
      { ...body.butter, material: 'cocoa butter' as const },
      { ...body.cake, material: 'cocoa powder' as const },
    ];
    await tx.insert(parcel).values(
      made.map((m) => ({
        id: m.parcelId,
        material: m.material,
        lotId: null,
        batchId: from.batchId,
        stepId: target,
        remainingMg: m.massMg,
        place: body.place || from.place,
        madeAt: line.at,
      })),
    );
    await tx.insert(movement).values([
      {
        ...line,
        id: body.takenId,
        direction: 'in',
        massMg,
        source: sourceOf(asked),
        material: 'liquor',
        parcelId: from.id,
        label: from.label || null,
      },
      ...made.map((m) => ({
        ...line,
        id: m.movementId,
        direction: 'out' as const,
        massMg: m.massMg,
        source: 'weighed' as const,
        material: m.material,
        parcelId: m.parcelId,
      })),
      ...(lostMg > 0
        ? [
            {
              ...line,
              id: body.lossId,
              direction: 'loss' as const,
              massMg: lostMg,
              source: 'derived' as const,
              reason: 'hold-up',
            },
          ]
        : []),
    ]);
    return { batchId: from.batchId };
  },
  async undo(context, { target }) {
    await voidStep(context, target);
  },
});

/** What stayed in the press, mg. @throws Problem 422 for weights that cannot be */
function readingOf(liquorMg: number, { butter, cake, liquorFat }: typeof LiquorPress._output): number {
  try {
    return readPressing({
      liquorMg,
      butterMg: butter.massMg,
      cakeMg: cake.massMg,
      ...(liquorFat !== null && { liquorFat }),
    }).lostMg;
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    throw new Problem({ status: 422, code: 'not-valid', field: 'butter.massMg', detail: error.message });
  }
}
