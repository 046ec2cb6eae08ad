import { ParcelLeave, type StepDetails } from '@wunsch/contract';
import { handler, lineOf, MAKERS, type Context } from '../commands/command.ts';
import { movement } from '../db/schema/index.ts';
import { besideStep, parcelOf, requireFree, sourceOf, type ParcelRow } from './beside.ts';
import { changeParcel, takenFrom } from './parcels.ts';
import { voidStep } from './steps.ts';

/**
 * Takes so much of a parcel out of the workshop: a closed step of its own, with what was taken and that it has gone.
 *
 * @throws Problem 409 where not enough is left
 */
export async function takeAway(
  context: Context,
  from: ParcelRow,
  asked: { massMg: number | null; count: number | null; takenId: string; lossId: string },
  how: {
    stepId: string;
    when: string;
    reason: string;
    /** What the step says, by what was taken. */
    details: StepDetails | ((taken: { massMg: number; count: number | null }) => StepDetails);
  },
): Promise<void> {
  const taken = takenFrom(from, asked);
  await changeParcel(context, from.id, -taken.massMg, taken.count === null ? null : -taken.count);
  const line = await besideStep(context, {
    id: how.stepId,
    kind: 'leave',
    of: from,
    when: how.when,
    details: typeof how.details === 'function' ? how.details(taken) : how.details,
  });
  await context.tx.insert(movement).values([
    {
      ...line,
      ...taken,
      id: asked.takenId,
      direction: 'in',
      source: sourceOf(asked),
      material: from.material,
      parcelId: from.id,
      label: from.label || null,
    },
    { ...line, ...taken, id: asked.lossId, direction: 'loss', source: 'derived', reason: how.reason },
  ]);
}

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
    const { target, body, at } = context;
    const from = await parcelOf(context, body.parcelId);
    // What was set aside may still be thrown away.
    if (body.destination !== 'waste') requireFree(from);
    await takeAway(context, from, body, {
      stepId: target,
      when: body.at ?? at,
      details: { destination: body.destination, fetched: body.fetched },
      reason: body.destination,
    });
    return { batchId: from.batchId };
  },
  async undo(context, { target }) {
    await voidStep(context, target);
  },
});
