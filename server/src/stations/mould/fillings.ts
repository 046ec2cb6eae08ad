import { FillingMake, MovementPut } from '@wunsch/contract';
import { MAY_FILL } from '@wunsch/core/ledger';
import { handler, MAKERS, type Context } from '../../commands/command.ts';
import { step } from '../../db/schema/index.ts';
import { Problem } from '../../http/problem.ts';
import { finishStep } from '../../ledger/compound.ts';
import { parcelOf } from '../../ledger/beside.ts';
import { addLine } from '../../ledger/movements.ts';
import { voidStep } from '../../ledger/steps.ts';

/**
 * What goes into a filling must be something to eat that is no shell or bean any more.
 *
 * @throws Problem 404, or 422 `may-not-enter`
 */
async function requireMayFill(context: Context, parcelId: string): Promise<void> {
  const { material } = await parcelOf(context, parcelId);
  if (MAY_FILL.has(material)) return;
  throw new Problem({
    status: 422,
    code: 'may-not-enter',
    field: 'lines',
    detail: `${material} cannot go into a filling; it takes ${[...MAY_FILL].join(', ')}`,
    params: { material, kind: 'prepare', takes: [...MAY_FILL] },
  });
}

/** Making a filling in one act: what went into the pot, what came out of it, and what boiled off or stayed. */
export const fillingMake = handler({
  kind: 'filling.make',
  version: 1,
  put: {
    path: '/api/fillings/:id',
    summary: 'Make a filling: what went into the pot and what came out, a parcel of its own',
    tag: 'mould',
  },
  body: FillingMake,
  roles: MAKERS,
  creates: true,
  touches: ['stock', 'batches', 'lots', 'ingredients'],
  line: (body) => ({ name: body.name, massMg: body.made.massMg }),
  async apply(context) {
    const { tx, target, body, at, by } = context;
    await tx.insert(step).values({
      id: target,
      batchId: null,
      station: 'mould',
      kind: 'prepare',
      startedAt: new Date(Date.parse(at) - 60_000 * (body.handsOnMinutes ?? 0)).toISOString(),
      details: {
        fillingName: body.name,
        ...(body.waterActivity !== null && { waterActivity: body.waterActivity }),
        ...(body.bestBefore !== null && { bestBefore: body.bestBefore }),
      },
      by,
    });
    for (const { movementId, ...line } of body.lines) {
      if (line.parcelId) await requireMayFill(context, line.parcelId);
      await addLine(context, movementId, MovementPut.parse({ ...line, stepId: target, direction: 'in' }));
    }
    const { massMg, movementId, parcelId } = body.made;
    await addLine(
      context,
      movementId,
      MovementPut.parse({
        stepId: target,
        direction: 'out',
        material: 'filling',
        label: body.name,
        massMg,
        parcelId,
        place: body.place,
      }),
    );
    await finishStep(context, target, [], {
      remainder: body.lost,
      remainderId: body.lossId,
      handsOnMinutes: body.handsOnMinutes,
    });
  },
  async undo(context, { target }) {
    await voidStep(context, target);
  },
});
