import { and, eq, inArray, sql } from 'drizzle-orm';
import type { Context, Handler } from '../commands/command.ts';
import {
  batch,
  customer,
  customerOrder,
  delivery,
  deliveryLine,
  movement,
  observation,
  parcel,
  step,
  tasting,
} from '../db/schema/index.ts';
import type { Brought } from '../db/schema/imports.ts';
import { rowsOf, uuids } from '../db/raw.ts';
import { Problem } from '../http/problem.ts';
import { batchStart } from '../ledger/batches.ts';
import { changeParcel, inForce } from '../ledger/parcels.ts';
import { lotReceive } from '../stations/beans/handlers.ts';
import { deliveryMake } from '../stock/deliveries.ts';

/**
 * Takes back everything a table brought, last first.
 *
 * @param seq number of the entry that brought it
 * @throws Problem where something else has been made of it since
 */
export async function takeAllBack(context: Context, brought: readonly Brought[], seq: number): Promise<void> {
  const batches = brought.flatMap((b) => (b.what === 'batch' ? [b.id] : []));
  const going = brought.flatMap((b) => (b.goesOn ? [b.id] : []));
  if (going.length > 0) await requireNotGoneOn(context, going, seq);
  const done = batches.length > 0 ? await takeUntouchedBack(context, batches, seq) : new Set<string>();
  for (const thing of [...brought].reverse()) if (!done.has(thing.id)) await takeBack(context, thing);
}

/** @throws Problem 409 `gone-on` where a batch that went on here has been weighed at since: that work would go with the table */
async function requireNotGoneOn({ tx }: Context, ids: readonly string[], seq: number): Promise<void> {
  const [on] = rowsOf<{ code: string }>(
    await tx.execute(sql`
      select b.code from batch b where b.id = any(${uuids(ids)}) and b.state <> 'void'
        and exists (select 1 from movement m where m.batch_id = b.id and m.seq <> ${seq} and m.replaces is null
          and m.replaced_by is null and not m.voided)
      order by b.code limit 1`),
  );
  if (on)
    throw new Problem({
      status: 409,
      code: 'gone-on',
      detail: `batch ${on.code} has gone on since it was taken over; void it first if its work is to go as well`,
      params: { code: on.code },
    });
}

const undoOf = (of: Handler, context: Context, target: string, body: object) =>
  of.undo!(context, { target, body: body as never, batchId: null });

async function takeBack(context: Context, { what, id, stepId }: Brought): Promise<void> {
  const { tx } = context;
  if (what === 'lot') await undoOf(lotReceive, context, id, { stepId });
  else if (what === 'batch') await undoOf(batchStart, context, id, {});
  else if (what === 'tasting') await tx.update(tasting).set({ voided: true }).where(eq(tasting.id, id));
  else if (what === 'delivery') {
    const lines = await tx
      .select({ stepId: deliveryLine.stepId })
      .from(deliveryLine)
      .where(eq(deliveryLine.deliveryId, id));
    await undoOf(deliveryMake, context, id, { lines, orderId: null });
  } else await forgetCustomer(context, id);
}

/**
 * Takes the batches back together that nobody has touched since they were taken over: nothing of them was weighed, corrected, used elsewhere or
 * sold. What is left of each of their parcels is then what they were made with, and all of it goes.
 *
 * @returns those that are gone; the others are for {@link takeBack}, which says what stands in the way
 */
async function takeUntouchedBack(
  context: Context,
  ids: readonly string[],
  seq: number,
): Promise<Set<string>> {
  const { tx } = context;
  const untouched = rowsOf<{ id: string }>(
    await tx.execute(sql`
      select b.id from batch b where b.id = any(${uuids(ids)}) and b.state <> 'void'
        and not exists (select 1 from movement m where m.batch_id = b.id
          and (m.seq = ${seq}) = (m.voided or m.replaced_by is not null))
        and not exists (select 1 from parcel p join movement m on m.parcel_id = p.id and m.seq <> ${seq}
          where p.batch_id = b.id and m.replaced_by is null and not m.voided)
        and not exists (select 1 from parcel p join delivery_line x on x.parcel_id = p.id
          join delivery d on d.id = x.delivery_id and not d.voided where p.batch_id = b.id)`),
  ).map((r) => r.id);
  if (untouched.length === 0) return new Set();
  const mine = sql`any(${uuids(untouched)})`;
  const given = rowsOf<{ id: string; mg: string | number }>(
    await tx.execute(sql`
      select m.parcel_id as id, sum(m.mass_mg) as mg from movement m join parcel p on p.id = m.parcel_id
      where m.batch_id = ${mine} and m.direction = 'in' and (p.batch_id is null or p.batch_id <> m.batch_id)
      group by m.parcel_id`),
  );
  const gone = { voided: true, voidedBy: context.seq };
  await tx
    .update(movement)
    .set(gone)
    .where(and(sql`${movement.batchId} = ${mine}`, inForce));
  for (const { id, mg } of given) await changeParcel(context, id, Number(mg));
  await tx
    .update(parcel)
    .set({ remainingMg: 0, count: sql`case when ${parcel.count} is not null then 0 end` })
    .where(sql`${parcel.batchId} = ${mine}`);
  const steps = await tx
    .update(step)
    .set(gone)
    .where(and(sql`${step.batchId} = ${mine}`, eq(step.voided, false)))
    .returning({ id: step.id });
  if (steps.length > 0)
    await tx
      .update(observation)
      .set(gone)
      .where(
        and(
          inArray(
            observation.stepId,
            steps.map((s) => s.id),
          ),
          eq(observation.voided, false),
        ),
      );
  await tx
    .update(batch)
    .set({ state: 'void', stateReason: 'taken back', version: sql`${batch.version} + 1` })
    .where(sql`${batch.id} = ${mine}`);
  return new Set(untouched);
}

/** A customer the table brought goes again, unless somebody has delivered or promised them something since. */
async function forgetCustomer({ tx }: Context, id: string): Promise<void> {
  const [served] = await tx
    .select({ id: delivery.id })
    .from(delivery)
    .where(and(eq(delivery.customerId, id), eq(delivery.voided, false)))
    .limit(1);
  const [promised] = await tx
    .select({ id: customerOrder.id })
    .from(customerOrder)
    .where(sql`${customerOrder.facts} ->> 'customerId' = ${id}`)
    .limit(1);
  if (!served && !promised) await tx.update(customer).set({ voided: true }).where(eq(customer.id, id));
}
