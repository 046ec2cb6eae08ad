import { ParcelLeave } from '@wunsch/contract';
import { handler, lineOf, MAKERS } from '../commands/command.ts';
import { movement } from '../db/schema/index.ts';
import { besideStep, parcelOf, requireFree, sourceOf } from './beside.ts';
import { changeParcel, takenFrom } from './parcels.ts';
import { voidStep } from './steps.ts';

/** Material leaves the workshop: husk to a garden, nibs to a baker, a sack sold on. A closed step of its own says where to and for how much. */
export const parcelLeave = handler({
  kind: 'parcel.leave',
  version: 1,
  put: { path: '/api/leaves/:id', summary: 'Material leaves the workshop', tag: 'ledger' },
  body: ParcelLeave,
  roles: MAKERS,
  creates: true,
  touches: ['stock', 'batches', 'lots'],
  line: lineOf('massMg', 'count', 'destination'),
  async apply(context) {
    const { tx, target, body, at } = context;
    const from = await parcelOf(context, body.parcelId);
    // What was set aside may still be thrown away.
    if (body.destination !== 'waste') requireFree(from);
    const taken = takenFrom(from, body);
    await changeParcel(context, from.id, -taken.massMg, taken.count === null ? null : -taken.count);
    const line = await besideStep(context, {
      id: target,
      kind: 'leave',
      of: from,
      when: body.at ?? at,
      details: { destination: body.destination, fetched: body.fetched },
    });
    await tx.insert(movement).values([
      {
        ...line,
        ...taken,
        id: body.takenId,
        direction: 'in',
        source: sourceOf(body),
        material: from.material,
        parcelId: from.id,
        label: from.label,
      },
      {
        ...line,
        ...taken,
        id: body.lossId,
        direction: 'loss',
        source: 'derived',
        reason: body.destination,
      },
    ]);
    return { batchId: from.batchId };
  },
  async undo(context, { target }) {
    await voidStep(context, target);
  },
});
