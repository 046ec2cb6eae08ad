import { and, eq } from 'drizzle-orm';
import { CorrectionPut, MovementPut } from '@wunsch/contract';
import { BY_PRODUCTS } from '@wunsch/core/ledger';
import { handler, MAKERS, type Context } from '../commands/command.ts';
import { ingredient, lot, movement, parcel, type step } from '../db/schema/index.ts';
import { notFound, Problem } from '../formats/problem.ts';
import {
  changeParcel,
  correctParcel,
  getStep,
  inForce,
  movementsOfStep,
  rebalance,
  replaceMovement,
  requireOpenBatch,
  type MovementRow,
} from './parcels.ts';

type Step = typeof step.$inferSelect;

/** Adding a line to a step. */
export const movementAdd = handler({
  kind: 'movement.add',
  body: MovementPut,
  roles: MAKERS,
  async apply(context) {
    const { tx, target, body, at, by, seq } = context;
    await refuseUsedId(context, target);
    const row = await getStep(context, body.stepId);
    await requireOpenBatch(context, row.batchId);
    const { holdOverride, place, ...line } = body;
    const filled = {
      ...line,
      id: target,
      batchId: row.batchId,
      at: body.at ?? at,
      by,
      seq,
    };
    if (body.direction === 'in')
      await tx.insert(movement).values({ ...filled, ...(await takeIn(context, holdOverride)) });
    else if (body.direction === 'out')
      await tx.insert(movement).values({ ...filled, ...(await putOut(context, row, place)) });
    else await tx.insert(movement).values({ ...filled, massMg: body.massMg! });
    await rebalance(context, row.id);
    return { batchId: row.batchId };
  },
  async undo(context, { target }) {
    const [line] = await context.tx
      .select()
      .from(movement)
      .where(and(eq(movement.id, target), inForce));
    if (!line)
      throw new Problem({
        status: 409,
        code: 'replaced-since',
        detail: 'this weight has been corrected or taken back since',
      });
    await voidMovement(context, line);
    await rebalance(context, line.stepId);
  },
});

/** Takes a line out of the books and gives its mass back. */
export async function voidMovement(context: Context, line: MovementRow): Promise<void> {
  await context.tx.update(movement).set({ voided: true }).where(eq(movement.id, line.id));
  if (!line.parcelId) return;
  if (line.direction === 'in') await changeParcel(context, line.parcelId, line.massMg);
  if (line.direction === 'out') await changeParcel(context, line.parcelId, -line.massMg);
}

/** Correcting a weight; everything that follows from it follows. */
export const movementCorrect = handler({
  kind: 'movement.correct',
  body: CorrectionPut,
  roles: MAKERS,
  async apply(context) {
    const { tx, target, body } = context;
    await refuseUsedId(context, target);
    const [old] = await tx.select().from(movement).where(eq(movement.id, body.movementId));
    if (!old) throw notFound('movement', body.movementId);
    if (old.replacedBy || old.voided) {
      throw new Problem({
        status: 409,
        code: 'replaced-since',
        detail: 'this weight has been corrected or taken back since; correct the one in force',
        params: { replacedBy: old.replacedBy },
      });
    }
    await requireOpenBatch(context, old.batchId);
    const source = old.source === 'derived' ? ('weighed' as const) : old.source;
    const count = body.count ?? old.count;
    await replaceMovement(context, old, {
      id: target,
      massMg: body.massMg,
      count,
      source,
      correctionReason: body.reason,
    });
    const delta = body.massMg - old.massMg;
    if (old.parcelId && old.direction === 'in') await changeParcel(context, old.parcelId, -delta);
    if (old.parcelId && old.direction === 'out') {
      if (count !== old.count) await tx.update(parcel).set({ count }).where(eq(parcel.id, old.parcelId));
      await correctParcel(context, old.parcelId, delta);
    }
    await rebalance(context, old.stepId);
    return { batchId: old.batchId };
  },
  async undo(context, { target }) {
    const [line] = await context.tx
      .select()
      .from(movement)
      .where(and(eq(movement.id, target), inForce));
    const [before] = line?.replaces
      ? await context.tx.select().from(movement).where(eq(movement.id, line.replaces))
      : [];
    if (!line || !before)
      throw new Problem({
        status: 409,
        code: 'replaced-since',
        detail: 'this weight has been corrected again since',
      });
    await replaceMovement(context, line, {
      massMg: before.massMg,
      count: before.count,
      source: before.source,
      correctionReason: 'correction taken back',
    });
    const delta = before.massMg - line.massMg;
    if (line.parcelId && line.direction === 'in') await changeParcel(context, line.parcelId, -delta);
    if (line.parcelId && line.direction === 'out') await correctParcel(context, line.parcelId, delta);
    await rebalance(context, line.stepId);
  },
});

async function refuseUsedId({ tx, careful }: Context, id: string): Promise<void> {
  if (!careful) return; // the primary key refuses it, and the careful try explains
  const [used] = await tx.select({ id: movement.id }).from(movement).where(eq(movement.id, id));
  if (used)
    throw new Problem({
      status: 409,
      code: 'id-used',
      detail: `the id ${id} already names another entry; make a new id`,
    });
}

async function takeIn(
  context: Context<MovementBody>,
  holdOverride: string,
): Promise<Partial<MovementRow> & { massMg: number }> {
  const { tx, body } = context;
  if (body.ingredientId) {
    const [shelf] = await tx.select().from(ingredient).where(eq(ingredient.id, body.ingredientId));
    if (!shelf) throw notFound('ingredient', body.ingredientId);
    return { massMg: body.massMg!, label: body.label ?? shelf.name };
  }
  const [from] = await tx
    .select({ parcel, onHold: lot.onHold, lotCode: lot.code, holdReason: lot.holdReason })
    .from(parcel)
    .leftJoin(lot, eq(lot.parcelId, parcel.id))
    .where(eq(parcel.id, body.parcelId!));
  if (!from) throw notFound('parcel', body.parcelId!);
  if (from.onHold && holdOverride.trim() === '') {
    throw new Problem({
      status: 409,
      code: 'on-hold',
      field: 'holdOverride',
      detail: `lot ${from.lotCode} is on hold${from.holdReason ? ` (${from.holdReason})` : ''}; say who lets it go and why to use it all the same`,
      params: { lot: from.lotCode },
    });
  }
  const all = body.massMg === null;
  const massMg = body.massMg ?? from.parcel.remainingMg;
  if (massMg <= 0) {
    throw new Problem({
      status: 409,
      code: 'oversubscribed',
      field: 'massMg',
      detail: `nothing of these ${from.parcel.material} is left`,
      params: { thereMg: 0 },
    });
  }
  await changeParcel(context, from.parcel.id, -massMg);
  const note = from.onHold ? `${body.note} [hold set aside: ${holdOverride.trim()}]`.trim() : body.note;
  return {
    massMg,
    material: from.parcel.material,
    label: body.label ?? from.parcel.label,
    note,
    source: all ? 'derived' : body.source,
  };
}

async function putOut(
  context: Context<MovementBody>,
  row: Step,
  place: string,
): Promise<Partial<MovementRow> & { massMg: number }> {
  const { tx, body } = context;
  const lines = await movementsOfStep(context, row.id);
  const derived = lines.find((m) => m.direction === 'out' && m.source === 'derived');
  let massMg = body.massMg;
  if (massMg === null) {
    if (derived)
      throw new Problem({
        status: 409,
        code: 'already-derived',
        field: 'massMg',
        detail: 'this step already has an output that takes what is left',
      });
    massMg = lines.reduce((sum, m) => sum + (m.direction === 'in' ? m.massMg : -m.massMg), 0);
    if (massMg <= 0)
      throw new Problem({
        status: 409,
        code: 'nothing-left',
        field: 'massMg',
        detail: 'nothing is left in this step to come out',
      });
  }
  const source = body.massMg === null ? ('derived' as const) : body.source;
  const [there] = await tx.select().from(parcel).where(eq(parcel.id, body.parcelId!));
  if (there && there.stepId !== row.id) {
    throw new Problem({
      status: 409,
      code: 'other-step',
      field: 'parcelId',
      detail: 'this parcel was made by another step; weigh into a new one',
    });
  }
  if (there && there.material !== body.material) {
    throw new Problem({
      status: 422,
      code: 'other-material',
      field: 'material',
      detail: `this parcel holds ${there.material}, not ${body.material}`,
    });
  }
  if (there) {
    await changeParcel(context, there.id, massMg);
    if (body.count)
      await tx
        .update(parcel)
        .set({ count: (there.count ?? 0) + body.count })
        .where(eq(parcel.id, there.id));
  } else {
    const label = body.label ?? (BY_PRODUCTS.has(body.material!) ? body.material! : '');
    await tx.insert(parcel).values({
      id: body.parcelId!,
      material: body.material!,
      label,
      batchId: row.batchId,
      stepId: row.id,
      remainingMg: massMg,
      count: body.count,
      place,
      madeAt: body.at ?? context.at,
    });
  }
  return { massMg, source };
}

type MovementBody = typeof MovementPut._output;
