import { and, eq, ne, sql } from 'drizzle-orm';
import { z } from 'zod';
import { LotPut, LotUpdate } from '@wunsch/contract';
import { requireMatch } from '../../access/handlers.ts';
import { handler, MAKERS, type Context } from '../../commands/command.ts';
import { lot, movement, parcel, step } from '../../db/schema/index.ts';
import { notFound, Problem } from '../../formats/problem.ts';
import { voidStep } from '../../ledger/steps.ts';

async function refuseTakenCode({ tx, target }: Context, code: string): Promise<void> {
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
  body: LotPut,
  roles: MAKERS,
  async apply(context) {
    const { tx, target, body, at, by, seq } = context;
    const { stepId, movementId, parcelId, massMg, ...facts } = body;
    const [used] = await tx.select({ id: lot.id }).from(lot).where(eq(lot.id, target));
    if (used)
      throw new Problem({
        status: 409,
        code: 'id-used',
        detail: `the id ${target} already names another lot; make a new id`,
      });
    await refuseTakenCode(context, body.code);
    const arrived = `${body.receivedOn}T00:00:00.000Z`;
    await tx.insert(lot).values({ id: target, ...facts, arrivedMg: massMg, parcelId, stepId, createdAt: at });
    await tx
      .insert(step)
      .values({ id: stepId, station: 'beans', status: 'closed', startedAt: arrived, endedAt: at, by });
    await tx.insert(parcel).values({
      id: parcelId,
      material: body.material,
      label: body.name,
      lotId: target,
      stepId,
      remainingMg: massMg,
      place: body.place,
      madeAt: arrived,
    });
    await tx.insert(movement).values({
      id: movementId,
      stepId,
      direction: 'out',
      massMg,
      source: 'weighed',
      material: body.material,
      parcelId,
      label: body.name,
      at,
      by,
      seq,
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
  body: LotUpdate.extend({ ifMatch: z.int().nullable().default(null) }),
  roles: MAKERS,
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
    await tx
      .update(lot)
      .set({ ...facts, version: old.version + 1 })
      .where(eq(lot.id, target));
    await tx.update(parcel).set({ place: facts.place, label: facts.name }).where(eq(parcel.id, old.parcelId));
  },
});
