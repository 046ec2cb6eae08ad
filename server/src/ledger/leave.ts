import { eq } from 'drizzle-orm';
import { ParcelLeave } from '@wunsch/contract';
import { ENTRY_STATION } from '@wunsch/core/ledger';
import { handler, MAKERS } from '../commands/command.ts';
import { lot, movement, parcel, step } from '../db/schema/index.ts';
import { notFound, Problem } from '../formats/problem.ts';
import { changeParcel } from './parcels.ts';
import { voidStep } from './steps.ts';

/** Material leaves the workshop: husk to a garden, nibs to a baker, a sack sold on. A closed step of its own says where to and for how much. */
export const parcelLeave = handler({
  kind: 'parcel.leave',
  body: ParcelLeave,
  roles: MAKERS,
  async apply(context) {
    const { tx, target, body, at, by, seq } = context;
    const [row] = await tx
      .select({ parcel, onHold: lot.onHold, lotCode: lot.code })
      .from(parcel)
      .leftJoin(lot, eq(lot.id, parcel.lotId))
      .where(eq(parcel.id, body.parcelId));
    if (!row) throw notFound('parcel', body.parcelId);
    const from = row.parcel;
    const massMg = body.massMg ?? from.remainingMg;
    if (massMg <= 0)
      throw new Problem({ status: 409, code: 'used-up', detail: `nothing is left of this ${from.material}` });
    await changeParcel(context, from.id, -massMg);
    await tx.insert(step).values({
      id: target,
      batchId: from.batchId,
      station: ENTRY_STATION[from.material],
      status: 'closed',
      startedAt: body.at ?? at,
      endedAt: body.at ?? at,
      details: { work: 'leave', destination: body.destination, fetched: body.fetched },
      by,
    });
    const line = { stepId: target, batchId: from.batchId, massMg, at: body.at ?? at, by, seq } as const;
    await tx.insert(movement).values([
      {
        ...line,
        id: body.takenId,
        direction: 'in',
        source: body.massMg === null ? 'derived' : 'weighed',
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
