import { eq } from 'drizzle-orm';
import { ParcelLeave } from '@wunsch/contract';
import { ENTRY_STATION } from '@wunsch/core/ledger';
import { handler, lineOf, MAKERS } from '../commands/command.ts';
import { lot, movement, parcel, step } from '../db/schema/index.ts';
import { notFound } from '../http/problem.ts';
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
    const { tx, target, body, at, by, seq } = context;
    const [row] = await tx
      .select({ parcel, onHold: lot.onHold, lotCode: lot.code })
      .from(parcel)
      .leftJoin(lot, eq(lot.id, parcel.lotId))
      .where(eq(parcel.id, body.parcelId));
    if (!row) throw notFound('parcel', body.parcelId);
    const from = row.parcel;
    const taken = takenFrom(from, body);
    await changeParcel(context, from.id, -taken.massMg, taken.count === null ? null : -taken.count);
    await tx.insert(step).values({
      id: target,
      batchId: from.batchId,
      station: ENTRY_STATION[from.material],
      kind: 'leave',
      status: 'closed',
      startedAt: body.at ?? at,
      endedAt: body.at ?? at,
      details: { destination: body.destination, fetched: body.fetched },
      by,
    });
    const line = { stepId: target, batchId: from.batchId, ...taken, at: body.at ?? at, by, seq } as const;
    await tx.insert(movement).values([
      {
        ...line,
        id: body.takenId,
        direction: 'in',
        source: body.massMg === null ? (body.count === null ? 'derived' : 'counted') : 'weighed',
        material: from.material,
        parcelId: from.id,
        label: from.label,
      },
      { ...line, id: body.lossId, direction: 'loss', source: 'derived', reason: body.destination },
    ]);
    return { batchId: from.batchId };
  },
  async undo(context, { target }) {
    await voidStep(context, target);
  },
});
