import { eq } from 'drizzle-orm';
import { ButterSeedMake } from '@wunsch/contract';
import { handler, MAKERS, type Context } from '../../commands/command.ts';
import { ingredient, movement, observation, parcel, supply } from '../../db/schema/index.ts';
import { Problem } from '../../http/problem.ts';
import { besideStep, parcelOf, requireFree, type ParcelRow } from '../../ledger/beside.ts';
import { changeParcel, takenFrom } from '../../ledger/parcels.ts';
import { voidStep } from '../../ledger/steps.ts';

/** Whether a parcel is cocoa butter: pressed here, or a delivery of it. */
async function isButter({ tx }: Context, of: ParcelRow): Promise<boolean> {
  if (of.material === 'cocoa butter') return true;
  const [delivered] = await tx
    .select({ cacao: ingredient.cacao })
    .from(supply)
    .innerJoin(ingredient, eq(ingredient.id, supply.ingredientId))
    .where(eq(supply.parcelId, of.id));
  return delivered?.cacao === 'butter';
}

/** Making stable-butter seed: butter weighed off into a parcel of its own, and a bell for when it should be a cream. One act, one undo. */
export const butterSeedMake = handler({
  kind: 'butter-seed.make',
  version: 1,
  put: {
    path: '/api/butter-seeds/:id',
    summary: 'Make stable-butter seed: cocoa butter held warm until it is a cream, a parcel of its own',
    tag: 'temper',
  },
  body: ButterSeedMake,
  roles: MAKERS,
  creates: true,
  touches: ['stock', 'batches', 'lots', 'observations', 'timers'],
  line: (body) => ({ massMg: body.massMg, hours: body.hours }),
  async apply(context) {
    const { tx, target, body, at, by, seq } = context;
    const from = await parcelOf(context, body.parcelId);
    if (!(await isButter(context, from)))
      throw new Problem({
        status: 422,
        code: 'may-not-enter',
        field: 'parcelId',
        detail: `butter seed is made of cocoa butter, not of ${from.material}`,
        params: { material: from.material, kind: 'temper', takes: ['cocoa butter'] },
      });
    requireFree(from);
    const { massMg } = takenFrom(from, { massMg: body.massMg, count: null });
    await changeParcel(context, from.id, -massMg);
    const line = await besideStep(context, { id: target, kind: 'part', of: from });
    await tx.insert(parcel).values({
      id: body.seedId,
      material: 'cocoa butter',
      lotId: from.lotId,
      batchId: from.batchId,
      stepId: target,
      remainingMg: massMg,
      label: body.label,
      place: body.place || from.place,
      madeAt: line.at,
    });
    const same = { ...line, massMg, source: 'weighed' as const };
    await tx.insert(movement).values([
      {
        ...same,
        id: body.takenId,
        direction: 'in',
        material: from.material,
        parcelId: from.id,
        label: from.label || null,
      },
      {
        ...same,
        id: body.madeId,
        direction: 'out',
        material: 'cocoa butter',
        parcelId: body.seedId,
        label: body.label,
      },
    ]);
    const dueAt = new Date(Date.parse(at) + body.hours * 3_600_000).toISOString();
    const data = { kind: 'timer' as const, label: body.ring, dueAt };
    await tx.insert(observation).values({ id: body.timerId, kind: 'timer', data, at, by, seq });
    return { batchId: from.batchId };
  },
  async undo(context, { target, body }) {
    await voidStep(context, target);
    await context.tx.update(observation).set({ voided: true }).where(eq(observation.id, body.timerId));
  },
});
