import { and, asc, eq, gt, isNull } from 'drizzle-orm';
import { LotDried } from '@wunsch/contract';
import { handler, lineOf, MAKERS } from '../../commands/command.ts';
import { lot, movement, observation, parcel, step } from '../../db/schema/index.ts';
import { notFound, Problem } from '../../http/problem.ts';
import { cameOn } from '../../ledger/days.ts';
import { changeParcel } from '../../ledger/parcels.ts';
import { voidStep } from '../../ledger/steps.ts';
import { carriedCost, refuseTakenCode } from '../beans/index.ts';

/** Taking dried beans in: all that is left of the wet lot goes in, dry beans come out, and what is missing is water and pulp. */
export const lotDried = handler({
  kind: 'lot.dried',
  version: 1,
  put: {
    path: '/api/lots/:id/dried',
    summary: 'Take dried beans in: the new lot takes the place of the wet one',
    tag: 'ferment',
  },
  body: LotDried,
  roles: MAKERS,
  creates: true,
  touches: ['lots', 'stock'],
  line: lineOf('code', 'name', 'massMg'),
  async apply(context) {
    const { tx, target, body, at, by, seq } = context;
    const [from] = await tx
      .select()
      .from(lot)
      .where(and(eq(lot.id, body.fromLotId), eq(lot.voided, false)));
    if (!from) throw notFound('lot', body.fromLotId);
    if (from.material !== 'wet beans' && from.material !== 'pods')
      throw new Problem({
        status: 409,
        code: 'not-wet',
        field: 'fromLotId',
        detail: `lot ${from.code} holds ${from.material}; only pods and wet beans are fermented and dried`,
      });
    // All of it, wherever it was moved to.
    const lying = await tx
      .select({ id: parcel.id, leftMg: parcel.remainingMg })
      .from(parcel)
      .where(
        and(
          eq(parcel.lotId, from.id),
          isNull(parcel.batchId),
          eq(parcel.material, from.material),
          gt(parcel.remainingMg, 0),
        ),
      )
      .orderBy(asc(parcel.madeAt), asc(parcel.id));
    const leftMg = lying.reduce((sum, p) => sum + p.leftMg, 0);
    if (leftMg <= 0)
      throw new Problem({ status: 409, code: 'used-up', detail: `nothing is left of lot ${from.code}` });
    if (body.massMg > leftMg)
      throw new Problem({
        status: 422,
        code: 'more-out-than-in',
        field: 'massMg',
        detail: `more dry beans than the ${(leftMg / 1e6).toFixed(2)} kg that went in cannot be; check the weight`,
        params: { thereMg: leftMg, askedMg: body.massMg },
      });
    await refuseTakenCode(context, body.code);
    const { stepId, takenId, movementId, lossId, parcelId, massMg } = body;
    const arrived = cameOn(body.receivedOn);
    const carried = await carriedCost(
      context,
      from,
      lying.map(({ id, leftMg: freshMg }) => ({ id, massMg: freshMg })),
      massMg,
    );
    for (const p of lying) await changeParcel(context, p.id, -p.leftMg);
    await tx.insert(lot).values({
      ...from,
      id: target,
      code: body.code,
      name: body.name,
      material: 'dry beans',
      moisture: body.moisture,
      ...carried,
      place: body.place,
      onHold: false,
      holdReason: '',
      bags: null,
      receivedOn: body.receivedOn,
      arrivedMg: massMg,
      parcelId,
      stepId,
      fromLotId: from.id,
      createdAt: at,
      version: 1,
    });
    await tx.insert(step).values({
      id: stepId,
      station: 'beans',
      kind: 'dry',
      status: 'closed',
      startedAt: arrived,
      endedAt: at,
      by,
    });
    await tx.insert(parcel).values({
      id: parcelId,
      material: 'dry beans',
      label: body.name,
      lotId: target,
      stepId,
      remainingMg: massMg,
      place: body.place,
      madeAt: arrived,
    });
    const line = { stepId, at, by, seq } as const;
    const lostMg = leftMg - massMg;
    await tx.insert(movement).values([
      ...lying.map((p, i) => ({
        ...line,
        id: i === 0 ? takenId : context.newId(),
        direction: 'in' as const,
        massMg: p.leftMg,
        source: 'derived' as const,
        material: from.material,
        parcelId: p.id,
        label: from.name,
      })),
      {
        ...line,
        id: movementId,
        direction: 'out',
        massMg,
        source: 'weighed',
        material: 'dry beans',
        parcelId,
        label: body.name,
      },
      ...(lostMg > 0
        ? [
            {
              ...line,
              id: lossId,
              direction: 'loss' as const,
              massMg: lostMg,
              source: 'derived' as const,
              reason: 'water and pulp',
            },
          ]
        : []),
    ]);
  },
  async undo(context, { target, body }) {
    await voidStep(context, body.stepId);
    await context.tx.update(lot).set({ voided: true }).where(eq(lot.id, target));
    await context.tx.update(observation).set({ voided: true }).where(eq(observation.lotId, target));
  },
});
