import { and, eq, sql } from 'drizzle-orm';
import { DeliveryMake, DeliveryReturn, StoredOrder } from '@wunsch/contract';
import { handler, MAKERS, type Context } from '../commands/command.ts';
import { customer, customerOrder, delivery, deliveryLine, movement, parcel } from '../db/schema/index.ts';
import type { Db } from '../db/database.ts';
import { rowsOf } from '../db/raw.ts';
import { notFound, Problem } from '../http/problem.ts';
import { parcelOf, requireFree, sourceOf } from '../ledger/beside.ts';
import { takeAway } from '../ledger/leave.ts';
import { inForce, replaceMovement, takenFrom, type MovementRow } from '../ledger/parcels.ts';
import { voidMovement } from '../ledger/movements.ts';
import { voidStep } from '../ledger/steps.ts';
import { MADE_NOW } from '../stations/recipe/index.ts';

/** What a delivery’s line keeps the loss of its step under. */
export const DELIVERED = 'delivered';

/** Bars that have gone out against each order, by the recipe made now; what came back is not among them. */
export async function deliveredBars(db: Db): Promise<Map<string, Map<string, number>>> {
  const result = await db.execute(sql`
    select d.order_id as "orderId", coalesce(r.now::text, '') as recipe, sum(m.count)::int as bars
    from delivery d
    join delivery_line l on l.delivery_id = d.id
    join movement m on m.step_id = l.step_id and m.direction = 'loss' and m.replaced_by is null and not m.voided
    join parcel p on p.id = l.parcel_id and p.material = 'bars'
    left join batch b on b.id = p.batch_id
    left join ${MADE_NOW} r on r.id = coalesce(b.recipe_id, b.lot_id)
    where d.order_id is not null and not d.voided
    group by d.order_id, r.now`);
  const orders = new Map<string, Map<string, number>>();
  for (const { orderId, recipe, bars } of rowsOf<{ orderId: string; recipe: string; bars: number | null }>(
    result,
  )) {
    const of = orders.get(orderId) ?? new Map<string, number>();
    orders.set(orderId, of.set(recipe, Number(bars ?? 0)));
  }
  return orders;
}

/**
 * Lines of an order less what has gone out against them: bars of a line’s own recipe first, then whatever else was taken instead. Lines
 * that are served are left out.
 *
 * @param lines with the recipes made now, as {@link deliveredBars} has them
 */
export function stillWanted<L extends { recipeId: string; bars: number }>(
  lines: readonly L[],
  delivered: ReadonlyMap<string, number> | undefined,
): L[] {
  if (!delivered) return [...lines];
  const left = new Map(delivered);
  const own = lines.map((line) => {
    const bars = Math.min(line.bars, left.get(line.recipeId) ?? 0);
    left.set(line.recipeId, (left.get(line.recipeId) ?? 0) - bars);
    return { ...line, bars: line.bars - bars };
  });
  let instead = [...left.values()].reduce((sum, n) => sum + n, 0);
  return own.flatMap((line) => {
    const bars = Math.min(line.bars, instead);
    instead -= bars;
    return line.bars > bars ? [{ ...line, bars: line.bars - bars }] : [];
  });
}

/** An order is done once as many bars have gone out as were promised, and open again where some come back. */
async function followOrder({ tx }: Context, orderId: string | null): Promise<void> {
  if (orderId === null) return;
  const [row] = await tx.select().from(customerOrder).where(eq(customerOrder.id, orderId));
  if (!row || row.state === 'withdrawn') return;
  const facts = StoredOrder.parse(row.facts);
  const wanted = facts.lines.reduce((sum, l) => sum + l.bars, 0);
  const gone = [...((await deliveredBars(tx)).get(orderId)?.values() ?? [])].reduce((sum, n) => sum + n, 0);
  const state = gone >= wanted ? ('delivered' as const) : ('open' as const);
  if (state === row.state) return;
  await tx
    .update(customerOrder)
    .set({ facts: { ...facts, state }, state, version: row.version + 1 })
    .where(eq(customerOrder.id, orderId));
}

/** How much lines of a delivery name, for the trail: pieces of what is counted, the mass of what is weighed; nothing of what goes whole. */
function amountOf(lines: readonly { count: number | null; massMg: number | null }[]) {
  const count = lines.reduce((sum, l) => sum + (l.count ?? 0), 0);
  const massMg = lines.reduce((sum, l) => sum + (l.massMg ?? 0), 0);
  return { ...(count > 0 && { count }), ...(massMg > 0 && { massMg }) };
}

/** Delivering to a customer. */
export const deliveryMake = handler({
  kind: 'delivery.make',
  version: 1,
  put: {
    path: '/api/deliveries/:id',
    summary: 'Deliver to a customer, against an order or without one',
    tag: 'stock',
  },
  body: DeliveryMake,
  roles: MAKERS,
  creates: true,
  touches: ['stock', 'batches', 'lots', 'plan'],
  line: (body) => ({ ...amountOf(body.lines), lines: body.lines.length }),
  async apply(context) {
    const { tx, target, body, at, by } = context;
    const [to] = await tx.select().from(customer).where(eq(customer.id, body.customerId));
    if (!to) throw notFound('customer', body.customerId);
    if (body.orderId !== null) {
      const [order] = await tx.select().from(customerOrder).where(eq(customerOrder.id, body.orderId));
      if (!order) throw notFound('order', body.orderId);
      const whose = StoredOrder.parse(order.facts).customerId;
      if (whose !== null && whose !== body.customerId)
        throw new Problem({
          status: 422,
          code: 'other-customer',
          field: 'orderId',
          detail: 'this order is another customer’s',
        });
    }
    const when = body.at ?? at;
    const [{ last } = { last: 0 }] = await tx
      .select({ last: sql<number>`coalesce(max(${delivery.number}), 0)::int` })
      .from(delivery);
    await tx.insert(delivery).values({
      id: target,
      number: last + 1,
      customerId: body.customerId,
      orderId: body.orderId,
      note: body.note,
      at: when,
      by,
    });
    let batchId: string | null = null;
    for (const wanted of body.lines) {
      const from = await parcelOf(context, wanted.parcelId);
      batchId ??= from.batchId;
      requireFree(from);
      const { price } = wanted;
      await takeAway(context, from, wanted, {
        stepId: wanted.stepId,
        when,
        reason: DELIVERED,
        details: (taken) => ({
          destination: to.name,
          deliveryId: target,
          customerId: to.id,
          ...(body.orderId !== null && { orderId: body.orderId }),
          ...(price !== null && { price, fetched: price * (taken.count ?? taken.massMg / 1e6) }),
        }),
      });
      await tx
        .insert(deliveryLine)
        .values({ stepId: wanted.stepId, deliveryId: target, parcelId: from.id, price });
    }
    await followOrder(context, body.orderId);
    return { batchId };
  },
  async undo(context, { target, body }) {
    const { tx } = context;
    for (const { stepId } of body.lines) {
      const [back] = await tx
        .select({ id: movement.id })
        .from(movement)
        .where(and(eq(movement.stepId, stepId), eq(movement.direction, 'out'), inForce));
      if (back)
        throw new Problem({
          status: 409,
          code: 'returned-since',
          detail: 'something of this delivery has come back since; take that back first',
        });
    }
    for (const { stepId } of body.lines) await voidStep(context, stepId);
    await tx.update(delivery).set({ voided: true }).where(eq(delivery.id, target));
    await followOrder(context, body.orderId);
  },
});

/** What a delivery’s line still holds with the customer; a line that has come back whole is found as it was taken out of the books. */
async function deliveredLine({ tx }: Context, stepId: string): Promise<MovementRow | null> {
  const [row] = await tx
    .select()
    .from(movement)
    .where(and(eq(movement.stepId, stepId), eq(movement.direction, 'loss'), inForce));
  return row ?? null;
}

/** Something of a delivery comes back. What was delivered is that much less, and what came back keeps its batch. */
export const deliveryReturn = handler({
  kind: 'delivery.return',
  version: 1,
  put: { path: '/api/returns/:id', summary: 'Something of a delivery comes back', tag: 'stock' },
  body: DeliveryReturn,
  roles: MAKERS,
  creates: true,
  touches: ['stock', 'batches', 'lots', 'plan'],
  line: (body) => ({ ...amountOf(body.lines), reason: body.reason }),
  async apply(context) {
    const { tx, body, at, by, seq } = context;
    const [of] = await tx
      .select()
      .from(delivery)
      .where(and(eq(delivery.id, body.deliveryId), eq(delivery.voided, false)));
    if (!of) throw notFound('delivery', body.deliveryId);
    let batchId: string | null = null;
    for (const wanted of body.lines) {
      const [line] = await tx
        .select()
        .from(deliveryLine)
        .where(and(eq(deliveryLine.stepId, wanted.stepId), eq(deliveryLine.deliveryId, of.id)));
      if (!line) throw notFound('line of this delivery', wanted.stepId);
      const from = await parcelOf(context, line.parcelId);
      batchId ??= from.batchId;
      const out = await deliveredLine(context, wanted.stepId);
      const back = takenFrom(
        { material: from.material, remainingMg: out?.massMg ?? 0, count: out ? out.count : null },
        wanted,
      );
      if (!out || back.massMg > out.massMg)
        throw new Problem({
          status: 409,
          code: 'oversubscribed',
          field: 'massMg',
          detail: 'no more can come back than was delivered',
          params: { thereMg: out?.massMg ?? 0 },
        });
      if (back.massMg === out.massMg)
        await tx.update(movement).set({ voided: true }).where(eq(movement.id, out.id));
      else
        await replaceMovement(context, out, {
          id: wanted.lossId,
          massMg: out.massMg - back.massMg,
          count: out.count === null ? null : out.count - (back.count ?? 0),
          correctionReason: 'returned',
        });
      await tx.insert(parcel).values({
        ...from,
        id: wanted.parcelId,
        stepId: wanted.stepId,
        remainingMg: back.massMg,
        count: back.count,
        place: body.place || from.place,
        onHold: body.onHold,
        holdReason: body.onHold ? body.reason || 'returned' : '',
        madeAt: from.madeAt,
      });
      await tx.insert(movement).values({
        id: wanted.madeId,
        stepId: wanted.stepId,
        batchId: from.batchId,
        direction: 'out',
        ...back,
        source: sourceOf(wanted),
        material: from.material,
        parcelId: wanted.parcelId,
        label: from.label || null,
        note: body.reason,
        at,
        by,
        seq,
      });
    }
    await followOrder(context, of.orderId);
    return { batchId };
  },
  async undo(context, { body }) {
    const { tx } = context;
    for (const wanted of body.lines) {
      const [back] = await tx
        .select()
        .from(movement)
        .where(and(eq(movement.id, wanted.madeId), inForce));
      if (!back) continue;
      // Refused by the parcel itself where it has been used since.
      await voidMovement(context, back);
      const out = await deliveredLine(context, wanted.stepId);
      if (out) {
        const { massMg, count } = restored(out, back);
        await replaceMovement(context, out, { massMg, count, correctionReason: 'return taken back' });
      } else
        await tx
          .update(movement)
          .set({ voided: false })
          .where(
            and(
              eq(movement.stepId, wanted.stepId),
              eq(movement.direction, 'loss'),
              sql`${movement.replacedBy} is null`,
            ),
          );
    }
    const [of] = await tx.select().from(delivery).where(eq(delivery.id, body.deliveryId));
    await followOrder(context, of?.orderId ?? null);
  },
});

const restored = (out: MovementRow, back: MovementRow) => ({
  massMg: out.massMg + back.massMg,
  count: out.count === null ? null : out.count + (back.count ?? 0),
});
