import { and, eq, isNull, ne, or, sql } from 'drizzle-orm';
import { moistureFault } from '@wunsch/core/beans';
import { LotPut, LotSent, LotUpdate } from '@wunsch/contract';
import { requireMatch } from '../../access/match.ts';
import { handler, lineOf, MAKERS, withMatch, type Context } from '../../commands/command.ts';
import { lot, parcel } from '../../db/schema/index.ts';
import { notFound, Problem } from '../../http/problem.ts';
import { arrive } from '../../ledger/arrive.ts';
import { voidStep } from '../../ledger/steps.ts';
import { carriedCost, driedAndCarried } from './carried.ts';

/** @throws Problem 409 where another lot has the code already */
export async function refuseTakenCode({ tx, target }: Context, code: string): Promise<void> {
  const [same] = await tx
    .select({ id: lot.id })
    .from(lot)
    .where(and(sql`lower(${lot.code}) = lower(${code})`, ne(lot.id, target), eq(lot.voided, false)));
  if (same)
    throw new Problem({
      status: 409,
      code: 'code-taken',
      field: 'code',
      detail: `there is already a lot ${code}; take another code`,
    });
}

/** Receiving a lot: its facts, and the first parcel of the ledger. */
export const lotReceive = handler({
  kind: 'lot.receive',
  version: 1,
  put: { path: '/api/lots/:id', summary: 'Receive a lot', tag: 'beans', body: LotSent },
  body: LotPut,
  roles: MAKERS,
  creates: true,
  touches: ['lots', 'stock'],
  line: lineOf('code', 'name', 'massMg', 'material'),
  async apply(context) {
    const { tx, target, body, at } = context;
    const { stepId, movementId, parcelId, massMg, ...facts } = body;
    await refuseTakenCode(context, body.code);
    await tx.insert(lot).values({ id: target, ...facts, arrivedMg: massMg, parcelId, stepId, createdAt: at });
    await arrive(context, {
      stepId,
      movementId,
      parcelId,
      massMg,
      station: 'beans',
      material: body.material,
      label: body.name,
      lotId: target,
      place: body.place,
      receivedOn: body.receivedOn,
    });
  },
  async undo(context, { target, body }) {
    await voidStep(context, body.stepId);
    await context.tx.update(lot).set({ voided: true }).where(eq(lot.id, target));
  },
});

/** Changing a lot's facts, putting it on hold, or letting it go. */
export const lotUpdate = handler({
  kind: 'lot.update',
  version: 1,
  put: {
    path: '/api/lots/:id/facts',
    summary: 'Change a lot’s facts or put it on hold (If-Match)',
    tag: 'beans',
    body: LotUpdate,
    guarded: true,
  },
  body: withMatch(LotUpdate),
  roles: MAKERS,
  touches: ['lots', 'stock', 'batches'],
  line: lineOf('code', 'name'),
  async apply(context) {
    const { tx, target, body } = context;
    const { ifMatch, ...facts } = body;
    const [old] = await tx
      .select()
      .from(lot)
      .where(and(eq(lot.id, target), eq(lot.voided, false)));
    if (!old) throw notFound('lot', target);
    requireMatch(ifMatch, old.version, 'lot');
    await refuseTakenCode(context, facts.code);
    const fault = moistureFault(old.material, facts.moisture);
    if (fault) throw new Problem({ status: 422, code: 'not-valid', field: 'moisture', detail: fault });
    const isPriced =
      facts.pricePerKg !== old.pricePerKg || facts.freight !== old.freight || facts.isFree !== old.isFree;
    const dried = isPriced ? await driedAndCarried(context, old) : [];
    await tx
      .update(lot)
      .set({ ...facts, version: old.version + 1 })
      .where(eq(lot.id, target));
    // Its parcels are called as it is; those that lie where it lay go along.
    const isOfLot = or(
      eq(parcel.id, old.parcelId),
      and(eq(parcel.lotId, target), eq(parcel.material, old.material), isNull(parcel.batchId)),
    );
    await tx.update(parcel).set({ label: facts.name }).where(isOfLot);
    await tx
      .update(parcel)
      .set({ place: facts.place })
      .where(or(eq(parcel.id, old.parcelId), and(isOfLot, eq(parcel.place, old.place))));
    // What it cost is carried by what was dried of it.
    for (const { row, went } of dried)
      await tx
        .update(lot)
        .set({
          ...(await carriedCost(context, { ...old, ...facts }, went, row.arrivedMg)),
          version: row.version + 1,
        })
        .where(eq(lot.id, row.id));
  },
});
