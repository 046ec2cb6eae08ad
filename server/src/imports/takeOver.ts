import { and, asc, eq, gt, ne, sql } from 'drizzle-orm';
import {
  DeliveryMake,
  LotPut,
  TastingPut,
  type OldLot,
  type OldSale,
  type OldTasting,
} from '@wunsch/contract';
import type { z } from 'zod';
import type { Context } from '../commands/command.ts';
import { batch, customer, parcel } from '../db/schema/index.ts';
import type { Brought } from '../db/schema/imports.ts';
import { Problem } from '../http/problem.ts';
import { lotReceive } from '../stations/beans/handlers.ts';
import { tastingAdd } from '../stations/taste/handlers.ts';
import { deliveryMake } from '../stock/deliveries.ts';
import { instantOn } from './days.ts';

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
