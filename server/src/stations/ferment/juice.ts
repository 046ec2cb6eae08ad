import { JuiceDrain } from '@wunsch/contract';
import { handler, MAKERS } from '../../commands/command.ts';
import { movement, parcel } from '../../db/schema/index.ts';
import { Problem } from '../../http/problem.ts';
import { besideStep, parcelOf, requireFree } from '../../ledger/beside.ts';
import { changeParcel } from '../../ledger/parcels.ts';
import { voidStep } from '../../ledger/steps.ts';

const FRESH = ['wet beans', 'pods'] as const;

/** Keeping the juice that drains from fresh beans, in one act: it is weighed, and what is left of the parcel goes on fermenting. */
export const juiceDrain = handler({
  kind: 'juice.drain',
  version: 1,
  put: { path: '/api/drainings/:id', summary: 'Keep the juice that drains from fresh beans', tag: 'ferment' },
  body: JuiceDrain,
  roles: MAKERS,
  creates: true,
  touches: ['lots', 'stock'],
  line: (body) => ({ massMg: body.juice.massMg }),
  async apply(context) {
    const { tx, target, body } = context;
    const from = await parcelOf(context, body.parcelId);
    if (!FRESH.some((m) => m === from.material))
      throw new Problem({
        status: 422,
        code: 'may-not-enter',
        field: 'parcelId',
        detail: `juice drains from pods and wet beans, not from ${from.material}`,
        params: { material: from.material, kind: 'drain', takes: FRESH },
      });
    requireFree(from);
    const thereMg = from.remainingMg;
    const restMg = thereMg - body.juice.massMg;
    if (restMg <= 0)
      throw new Problem({
        status: 422,
        code: 'more-out-than-in',
        field: 'juice.massMg',
        detail: `of the ${(thereMg / 1e6).toFixed(2)} kg that are there not all can be juice; weigh the juice alone`,
        params: { thereMg, askedMg: body.juice.massMg },
      });
    await changeParcel(context, from.id, -thereMg);
    const line = await besideStep(context, {
      id: target,
      kind: 'drain',
      of: from,
      work: { machineId: null, ranMinutes: null, handsOnMinutes: body.handsOnMinutes },
    });
    const made = [
      {
        ...body.juice,
        material: 'juice' as const,
        source: 'weighed' as const,
        place: body.place || from.place,
      },
      {
        ...body.rest,
        massMg: restMg,
        material: from.material,
        source: 'derived' as const,
        place: from.place,
      },
    ];
    await tx.insert(parcel).values(
      made.map((m) => ({
        id: m.parcelId,
        material: m.material,
        label: from.label,
        lotId: from.lotId,
        stepId: target,
        remainingMg: m.massMg,
        place: m.place,
        madeAt: line.at,
      })),
    );
    await tx.insert(movement).values([
      {
        ...line,
        id: body.takenId,
        direction: 'in',
        massMg: thereMg,
        source: 'derived',
        material: from.material,
        parcelId: from.id,
        label: from.label,
      },
      ...made.map((m) => ({
        ...line,
        id: m.movementId,
        direction: 'out' as const,
        massMg: m.massMg,
        source: m.source,
        material: m.material,
        parcelId: m.parcelId,
        label: from.label,
      })),
    ]);
  },
  async undo(context, { target }) {
    await voidStep(context, target);
  },
});
