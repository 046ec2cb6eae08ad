import { and, asc, eq, gt, isNotNull } from 'drizzle-orm';
import { CorrectionPut, MovementPut } from '@wunsch/contract';
import { BY_PRODUCTS, isWork, lossName, MAY_ENTER, mayEnter, weighingU } from '@wunsch/core/ledger';
import { handler, lineOf, MAKERS, type Context } from '../commands/command.ts';
import { ingredient, lot, machine, movement, parcel, supply } from '../db/schema/index.ts';
import { notFound, Problem } from '../http/problem.ts';
import { requireFree } from './beside.ts';
import {
  addMovements,
  balanceIsFollowed,
  changeParcel,
  changeParcelRow,
  correctParcel,
  DELIVERIES,
  getStep,
  inForce,
  isDerivedOutput,
  movementsOfStep,
  rebalance,
  replaceMovement,
  requireOpenBatch,
  takenFrom,
  type MovementRow,
} from './parcels.ts';
import type { StepRow } from './steps.ts';

type MovementBody = typeof MovementPut._output;
type NewLine = typeof movement.$inferInsert;

/**
 * Adds a line to a step and brings the step back into balance.
 *
 * @throws Problem where the material may not enter this work, or not so much is there
 */
export async function addLine(context: Context, id: string, body: MovementBody): Promise<StepRow> {
  const row = await getStep(context, body.stepId);
  await requireOpenBatch(context, row.batchId);
  const follows = await balanceIsFollowed(context, row);
  const { holdOverride: _, place: __, begins: ___, also: ____, ...line } = body;
  if (line.reason) line.reason = lossName(line.reason);
  const filled = {
    ...line,
    id,
    batchId: row.batchId,
    at: body.at ?? context.at,
    by: context.by,
    seq: context.seq,
    uMg: body.uMg ?? (await uncertaintyHere(context, body)),
  };
  const lines: NewLine[] =
    body.direction === 'in'
      ? await takeIn(context, row, filled, body)
      : body.direction === 'out'
        ? [{ ...filled, ...(await putOut(context, row, body)) }]
        : [{ ...filled, massMg: body.massMg! }];
  await addMovements(context, lines);
  if (follows || lines.some(isDerivedOutput)) await rebalance(context, row.id);
  return row;
}

/** The uncertainty of a weighing by the scales there are; null for what nobody weighed. */
async function uncertaintyHere(context: Context, { source, massMg }: MovementBody): Promise<number | null> {
  if (source !== 'weighed' || massMg === null) return null;
  const scales = await context.once('scales', () =>
    context.tx
      .select({ uMg: machine.uMg, maxMg: machine.maxMg })
      .from(machine)
      .where(and(eq(machine.active, true), isNotNull(machine.uMg))),
  );
  return weighingU(scales, massMg);
}

/** Takes a line out of the books and gives its mass and pieces back. */
export async function voidMovement(context: Context, line: MovementRow): Promise<void> {
  await context.tx
    .update(movement)
    .set({ voided: true, voidedBy: context.seq })
    .where(eq(movement.id, line.id));
  if (!line.parcelId) return;
  const sign = line.direction === 'in' ? 1 : -1;
  if (line.direction !== 'loss')
    await changeParcel(
      context,
      line.parcelId,
      sign * line.massMg,
      line.count === null ? null : sign * line.count,
    );
}

/** Correcting a weight; everything that follows from it follows. */
export const movementCorrect = handler({
  kind: 'movement.correct',
  version: 1,
  put: {
    path: '/api/corrections/:id',
    summary: 'Correct a weight; the old one stays readable',
    tag: 'ledger',
  },
  body: CorrectionPut,
  roles: MAKERS,
  creates: true,
  touches: ['batches', 'stock', 'lots', 'yields', 'runs'],
  line: lineOf('massMg', 'reason', 'movementId', 'count'),
  keepsRead: true,
  foresees: ({ body }) => [[movement, body.movementId]],
  async apply(context) {
    const { target, body } = context;
    const old = await context.rows.get(movement, body.movementId);
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
    await changeLine(context, old, {
      id: target,
      massMg: body.massMg,
      count: body.count ?? old.count,
      source,
      correctionReason: body.reason,
    });
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
    await changeLine(context, line, {
      massMg: before.massMg,
      count: before.count,
      source: before.source,
      correctionReason: 'correction taken back',
    });
  },
});

/** Puts a line with another mass or number of pieces in the place of one in force, and lets what follows follow. */
async function changeLine(
  context: Context,
  old: MovementRow,
  change: Partial<MovementRow> & Pick<MovementRow, 'massMg' | 'count'>,
): Promise<void> {
  const follows = await balanceIsFollowed(context, await getStep(context, old.stepId));
  await replaceMovement(context, old, change);
  const deltaMg = change.massMg - old.massMg;
  const deltaCount = change.count === null ? null : change.count - (old.count ?? 0);
  if (old.parcelId && old.direction === 'in')
    await changeParcel(context, old.parcelId, -deltaMg, deltaCount === null ? null : -deltaCount);
  if (old.parcelId && old.direction === 'out')
    await correctParcel(context, old.parcelId, deltaMg, deltaCount);
  if (follows) await rebalance(context, old.stepId);
}

/**
 * Refuses material that can have no business at a kind of work, and says what may enter.
 *
 * @throws Problem 422 `may-not-enter`
 */
export function requireMayEnter(
  kind: StepRow['kind'],
  material: (typeof parcel.$inferSelect)['material'],
): void {
  if (!isWork(kind) || mayEnter(kind, material)) return;
  throw new Problem({
    status: 422,
    code: 'may-not-enter',
    field: 'parcelId',
    detail: `${material} cannot go into ${kind}; it takes ${[...MAY_ENTER[kind]].join(', ')}`,
    params: { material, kind, takes: [...MAY_ENTER[kind]] },
  });
}

/**
 * Refuses what is of a lot on hold, unless somebody says why it is used all the same.
 *
 * @throws Problem 409 `on-hold`
 */
export function requireNotHeld(
  onHold: boolean | null,
  of: { code: string | null; holdReason: string | null },
  holdOverride: string,
): void {
  if (!onHold || holdOverride.trim() !== '') return;
  throw new Problem({
    status: 409,
    code: 'on-hold',
    field: 'holdOverride',
    detail: `lot ${of.code} is on hold${of.holdReason ? ` (${of.holdReason})` : ''}; say who lets it go and why to use it all the same`,
    params: { lot: of.code },
  });
}

async function takeIn(
  context: Context,
  row: StepRow,
  filled: Omit<NewLine, 'massMg'>,
  body: MovementBody,
): Promise<NewLine[]> {
  if (body.ingredientId && !body.parcelId) return fromShelf(context, filled, body);
  const from = await context.rows.get(parcel, body.parcelId!);
  if (!from) throw notFound('parcel', body.parcelId!);
  const { onHold, lotCode, holdReason, ingredientId, pricePerKg } = await originOf(context, from.id);
  requireMayEnter(row.kind, from.material);
  requireFree(from);
  requireNotHeld(onHold, { code: lotCode, holdReason }, body.holdOverride);
  const all = body.massMg === null && body.count === null;
  const taken = takenFrom(from, body);
  await changeParcelRow(context, from, -taken.massMg, taken.count === null ? null : -taken.count);
  return [
    {
      ...filled,
      ...taken,
      material: from.material,
      label: body.label ?? from.label,
      ingredientId: ingredientId ?? body.ingredientId,
      pricePerKg,
      ...(onHold && { holdOverride: body.holdOverride.trim() }),
      source: all ? 'derived' : body.massMg === null ? 'counted' : body.source,
    },
  ];
}

/** What a parcel tells of the lot it is of, and of the delivery it came with; null where there is none. */
function originOf({ rows, tx }: Context, parcelId: string) {
  return rows.find(`origin of ${parcelId}`, async () => {
    const [found] = await tx
      .select({
        onHold: lot.onHold,
        lotCode: lot.code,
        holdReason: lot.holdReason,
        ingredientId: supply.ingredientId,
        pricePerKg: supply.pricePerKg,
      })
      .from(parcel)
      .leftJoin(lot, eq(lot.id, parcel.lotId))
      .leftJoin(supply, eq(supply.parcelId, parcel.id))
      .where(eq(parcel.id, parcelId));
    return found!;
  });
}

/**
 * Takes an ingredient off the shelf: from its deliveries, the one that keeps shortest first; what no delivery covers is taken
 * all the same at the ingredient's own price, since the scale is right and the stock may be behind. What is set aside comes last, and
 * only where somebody says why it is used all the same.
 *
 * @throws Problem 409 `set-aside` where only what is set aside is left of its deliveries, and nobody keeps count of the shelf besides
 */
async function fromShelf(
  context: Context,
  filled: Omit<NewLine, 'massMg'>,
  body: MovementBody,
): Promise<NewLine[]> {
  const shelf = await context.rows.get(ingredient, body.ingredientId!);
  if (!shelf) throw notFound('ingredient', body.ingredientId!);
  const deliveries = await deliveriesOf(context, shelf.id);
  const label = body.label ?? shelf.name;
  const lines: NewLine[] = [];
  let wanted = body.massMg!;
  for (const delivery of deliveries) {
    if (wanted === 0) break;
    const { from, pricePerKg } = delivery;
    if (from.remainingMg === 0) continue;
    if (from.onHold && body.holdOverride.trim() === '') {
      if (shelf.stockMg !== null) break;
      requireFree(from);
    }
    const massMg = Math.min(wanted, from.remainingMg);
    wanted -= massMg;
    await changeParcelRow(context, from, -massMg);
    lines.push({
      ...filled,
      massMg,
      label,
      parcelId: from.id,
      pricePerKg,
      material: 'ingredient',
      ...(from.onHold && { holdOverride: body.holdOverride.trim() }),
    });
  }
  if (wanted > 0) lines.push({ ...filled, massMg: wanted, label, pricePerKg: shelf.pricePerKg });
  return lines.map((line, i) => (i === 0 ? line : { ...line, id: context.newId(), splitOf: filled.id }));
}

/** The deliveries of an ingredient that have something left, in the order they are taken from. */
async function deliveriesOf(
  { rows, tx }: Context,
  ingredientId: string,
): Promise<{ from: typeof parcel.$inferSelect; pricePerKg: number | null }[]> {
  return rows.find(`${DELIVERIES} ${ingredientId}`, async () => {
    const found = await tx
      .select({ from: parcel, pricePerKg: supply.pricePerKg })
      .from(supply)
      .innerJoin(parcel, eq(parcel.id, supply.parcelId))
      .where(and(eq(supply.ingredientId, ingredientId), gt(parcel.remainingMg, 0)))
      .orderBy(asc(parcel.onHold), asc(supply.bestBefore), asc(supply.receivedOn), asc(supply.id));
    return found.map(({ from, pricePerKg }) => ({ from: rows.know(parcel, [from])[0]!, pricePerKg }));
  });
}

async function putOut(
  context: Context,
  row: StepRow,
  body: MovementBody,
): Promise<Partial<MovementRow> & { massMg: number }> {
  let massMg = body.massMg;
  if (massMg === null) {
    const lines = await movementsOfStep(context, row.id);
    if (lines.some((m) => m.direction === 'out' && m.source === 'derived'))
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
  const there = await context.rows.get(parcel, body.parcelId!);
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
  if (there) await changeParcelRow(context, there, massMg, body.count);
  else {
    const label = body.label ?? (BY_PRODUCTS.has(body.material!) ? body.material! : '');
    await context.rows.add(parcel, [
      {
        id: body.parcelId!,
        material: body.material!,
        label,
        batchId: row.batchId,
        stepId: row.id,
        remainingMg: massMg,
        count: body.count,
        place: body.place,
        madeAt: body.at ?? context.at,
      },
    ]);
  }
  return { massMg, source };
}
