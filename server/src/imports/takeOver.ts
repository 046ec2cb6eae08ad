import { and, asc, eq, gt, ne, sql } from 'drizzle-orm';
import {
  DeliveryMake,
  LotPut,
  MovementPut,
  StepPut,
  TastingPut,
  type OldBatch,
  type OldLot,
  type OldSale,
  type OldTasting,
} from '@wunsch/contract';
import { stepBalance, type Material, type WorkKind, WORK_STATION } from '@wunsch/core/ledger';
import type { z } from 'zod';
import type { Context } from '../commands/command.ts';
import { batch, customer, ingredient, lot, movement, parcel } from '../db/schema/index.ts';
import type { Brought } from '../db/schema/imports.ts';
import { Problem } from '../http/problem.ts';
import { batchStart, batchState } from '../ledger/batches.ts';
import { movementsOfStep, rebalance } from '../ledger/parcels.ts';
import { addLine } from '../ledger/movements.ts';
import { closeStep, stepOpen } from '../ledger/steps.ts';
import { lotReceive } from '../stations/beans/handlers.ts';
import { tastingAdd } from '../stations/taste/handlers.ts';
import { deliveryMake } from '../stock/deliveries.ts';

/** The hour an old day's work begins at; what followed is an hour apart. */
const FIRST_HOUR = 8;

const instantOn = (day: string, hours = 0) =>
  `${day}T${String(FIRST_HOUR + hours).padStart(2, '0')}:00:00.000Z`;

/** The same entry, at work on another thing with a body of its own. */
const on = <B>(context: Context, target: string, body: B): Context<B> => ({
  ...context,
  target,
  body,
  // Rows are read anew: what one row of the table brought, the next may need.
  once: (_, load) => load(),
});

/** Takes over one row of a table; gives what it brought. */
export type TakeOver<R> = (context: Context, row: R) => Promise<Brought[]>;

/** A lot with what arrived of it. */
export const takeLot: TakeOver<z.output<typeof OldLot>> = async (context, { row: _, ...facts }) => {
  const id = context.newId();
  const stepId = context.newId();
  const body = LotPut.parse({ ...facts, stepId, movementId: context.newId(), parcelId: context.newId() });
  await lotReceive.apply(on(context, id, body));
  return [{ what: 'lot', id, stepId }];
};

/** One step of an old batch: what went in, and what came out under a weight that was written down. */
interface OldStep {
  kind: WorkKind;
  out: Material;
  outMg: number | null;
  bars?: number;
  /** What the difference goes under. */
  loss: string;
}

/** The steps whose weights are known, one after the other. @throws Problem where a weight between two is missing */
function stepsOf(row: z.output<typeof OldBatch>): OldStep[] {
  const steps: OldStep[] = [];
  const { roastedMg, nibsMg, chocolateMg, bars, barMg } = row;
  if (roastedMg !== null)
    steps.push({ kind: 'roast', out: 'roasted beans', outMg: roastedMg, loss: 'moisture' });
  if (nibsMg !== null)
    steps.push({
      kind: 'winnow',
      out: 'nibs',
      outMg: nibsMg,
      loss: roastedMg === null ? 'moisture and husk' : 'husk',
    });
  const needsNibs = chocolateMg !== null || bars !== null;
  if (needsNibs && steps.length === 0)
    throw new Problem({
      status: 422,
      code: 'weights-between',
      field: 'nibsMg',
      detail:
        'between the beans and the chocolate the weight of the nibs, or of the roasted beans, is needed',
    });
  if (chocolateMg !== null)
    steps.push({ kind: 'grind', out: 'chocolate', outMg: chocolateMg, loss: 'hold-up' });
  if (bars !== null) {
    if (steps.at(-1)!.out === 'roasted beans')
      throw new Problem({
        status: 422,
        code: 'weights-between',
        field: 'chocolateMg',
        detail:
          'between the roasted beans and the bars the weight of the chocolate, or of the nibs, is needed',
      });
    steps.push({
      kind: 'mould',
      out: 'bars',
      outMg: barMg === null ? null : bars * barMg,
      bars,
      loss: 'hold-up',
    });
  }
  return steps;
}

/** A finished batch, by the weights that were written down of it. */
export const takeBatch: TakeOver<z.output<typeof OldBatch>> = async (context, row) => {
  const { tx } = context;
  const [from] = await tx
    .select({ id: lot.id, parcelId: lot.parcelId, leftMg: parcel.remainingMg })
    .from(lot)
    .innerJoin(parcel, eq(parcel.id, lot.parcelId))
    .where(and(sql`lower(${lot.code}) = lower(${row.lot})`, eq(lot.voided, false)));
  if (!from)
    throw new Problem({
      status: 422,
      code: 'no-such-lot',
      field: 'lot',
      detail: `there is no lot ${row.lot}; take the lots over first, or give it that code`,
      params: { code: row.lot },
    });
  const steps = stepsOf(row);
  const id = context.newId();
  await batchStart.apply(
    on(context, id, {
      code: row.code,
      lotId: from.id,
      plannedMg: row.beansMg,
      recipeId: null,
      barMg: row.barMg,
      route: null,
      startedAt: instantOn(row.startedOn),
    }),
  );
  let source = from.parcelId;
  let inMg: number | null = row.beansMg;
  for (const [i, step] of steps.entries()) {
    const at = instantOn(row.startedOn, i + 1);
    const stepId = context.newId();
    const opened = StepPut.parse({
      batchId: id,
      station: WORK_STATION[step.kind],
      kind: step.kind,
      startedAt: at,
    });
    await stepOpen.apply(on(context, stepId, opened));
    await addLine(
      context,
      context.newId(),
      MovementPut.parse({ stepId, direction: 'in', parcelId: source, massMg: inMg, at }),
    );
    // Sugar and butter went in where nibs became chocolate, or straight into the moulds' bowl.
    const takesThem = step.kind === 'grind' || (step.kind === 'mould' && row.chocolateMg === null);
    if (takesThem) {
      await takeOffShelf(context, { stepId, batchId: id, at }, 'cane-sugar', row.sugarMg);
      await takeOffShelf(context, { stepId, batchId: id, at }, 'cocoa-butter', row.butterMg);
    }
    const parcelId = context.newId();
    const out = {
      stepId,
      direction: 'out',
      material: step.out,
      parcelId,
      massMg: step.outMg,
      count: step.bars ?? null,
      at,
    };
    await addLine(context, context.newId(), MovementPut.parse(out));
    const { differenceMg } = stepBalance(await movementsOfStep(context, stepId));
    await closeStep(context, stepId, {
      remainder: differenceMg < 0 ? 'unexplained' : step.loss,
      remainderId: context.newId(),
      handsOnMinutes: null,
      endedAt: at,
    });
    source = parcelId;
    // All that came out of one step went into the next.
    inMg = null;
  }
  await batchState.apply(on(context, id, { state: 'finished' as const, reason: row.note }));
  return [{ what: 'batch', id }];
};

/** What went in off the shelf then: today's deliveries are not touched by it. */
async function takeOffShelf(
  context: Context,
  of: { stepId: string; batchId: string; at: string },
  key: string,
  massMg: number | null,
): Promise<void> {
  if (massMg === null) return;
  const [shelf] = await context.tx.select().from(ingredient).where(eq(ingredient.key, key)).limit(1);
  if (!shelf)
    throw new Problem({
      status: 422,
      code: 'no-such-ingredient',
      field: key === 'cane-sugar' ? 'sugarMg' : 'butterMg',
      detail: `the shelf has no ${key}; add it among the ingredients first`,
      params: { key },
    });
  await context.tx.insert(movement).values({
    ...of,
    id: context.newId(),
    direction: 'in',
    massMg,
    source: 'weighed',
    material: 'ingredient',
    ingredientId: shelf.id,
    label: shelf.name,
    pricePerKg: shelf.pricePerKg,
    by: context.by,
    seq: context.seq,
  });
  await rebalance(context, of.stepId);
}

async function batchBy({ tx }: Context, code: string): Promise<{ id: string; code: string }> {
  const [found] = await tx
    .select({ id: batch.id, code: batch.code })
    .from(batch)
    .where(and(sql`lower(${batch.code}) = lower(${code})`, ne(batch.state, 'void')));
  if (!found)
    throw new Problem({
      status: 422,
      code: 'no-such-batch',
      field: 'batch',
      detail: `there is no batch ${code}; take the batches over first`,
      params: { code },
    });
  return found;
}

/** Bars that went out: oldest parcel of the batch first. */
export const takeSale: TakeOver<z.output<typeof OldSale>> = async (context, row) => {
  const { tx } = context;
  const of = await batchBy(context, row.batch);
  const parcels = await tx
    .select({ id: parcel.id, count: parcel.count })
    .from(parcel)
    .where(
      and(
        eq(parcel.batchId, of.id),
        eq(parcel.material, 'bars'),
        gt(parcel.count, 0),
        eq(parcel.onHold, false),
      ),
    )
    .orderBy(asc(parcel.madeAt), asc(parcel.id));
  const there = parcels.reduce((sum, p) => sum + (p.count ?? 0), 0);
  if (there < row.bars)
    throw new Problem({
      status: 422,
      code: 'not-so-many',
      field: 'bars',
      detail: `${row.bars} bars of ${of.code} are said to be sold, and only ${there} are left of it`,
      params: { code: of.code, bars: row.bars, there },
    });
  const brought: Brought[] = [];
  const [known] = await tx
    .select()
    .from(customer)
    .where(and(sql`lower(${customer.name}) = lower(${row.customer})`, eq(customer.voided, false)));
  const customerId = known?.id ?? context.newId();
  if (!known) {
    await tx.insert(customer).values({ id: customerId, name: row.customer, channel: 'private', note: '' });
    brought.push({ what: 'customer', id: customerId });
  }
  let left = row.bars;
  const lines: z.input<typeof DeliveryMake>['lines'] = [];
  for (const p of parcels) {
    if (left === 0) break;
    const count = Math.min(left, p.count!);
    left -= count;
    lines.push({
      parcelId: p.id,
      count,
      price: row.price,
      stepId: context.newId(),
      takenId: context.newId(),
      lossId: context.newId(),
    });
  }
  const id = context.newId();
  const body = DeliveryMake.parse({ customerId, lines, at: instantOn(row.on, 9) });
  await deliveryMake.apply(on(context, id, body));
  return [...brought, { what: 'delivery', id }];
};

/** A tasting: what was liked, and the words. */
export const takeTasting: TakeOver<z.output<typeof OldTasting>> = async (context, row) => {
  const of = await batchBy(context, row.batch);
  const id = context.newId();
  const body = TastingPut.parse({
    batchId: of.id,
    at: instantOn(row.on, 8),
    card: {
      form: 'full',
      look: { swatch: null, gloss: null, faults: [] },
      snap: { sound: null, edge: null },
      strip: [],
      basics: {},
      texture: row.grit === null ? {} : { grit: row.grit },
      faults: [],
      liking: row.liking,
      wouldSell: null,
      words: [row.taster, row.words].filter(Boolean).join(': '),
    },
  });
  await tastingAdd.apply(on(context, id, body));
  return [{ what: 'tasting', id }];
};
