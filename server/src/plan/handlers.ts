import { and, eq, sql, type AnyColumn } from 'drizzle-orm';
import type { z } from 'zod';
import {
  AbsencePut,
  CalendarAddressEnd,
  CalendarAddressPut,
  CustomerPut,
  OrderPut,
  PlanKeep,
  StockAimPut,
  StoredOrder,
  WorkHoursPut,
} from '@wunsch/contract';
import { requireMatch } from '../access/match.ts';
import { handler, lineOf, MAKERS, OWNERS, withMatch, type Handler } from '../commands/command.ts';
import { stoodBefore } from '../commands/earlier.ts';
import { ownRow } from '../commands/ownRow.ts';
import type { Db } from '../db/database.ts';
import {
  absence,
  calendarAddress,
  customer,
  customerOrder,
  delivery,
  keptPlan,
  person,
  stockAim,
  workHours,
} from '../db/schema/index.ts';
import { notFound, Problem } from '../http/problem.ts';
import { requireMadeBy } from '../stations/recipe/index.ts';

/** The workshop’s hours stand in one row. */
const ONE = 1;

// Refinements of an order do not survive the version that is added; the door has checked them.
const customerEntry = withMatch(CustomerPut);
const orderEntry = withMatch(OrderPut);
const aimEntry = withMatch(StockAimPut);
const hoursEntry = withMatch(WorkHoursPut);
const absenceEntry = withMatch(AbsencePut);

/** The version after the one a row has. */
const nextOf = (version: AnyColumn) => sql<number>`${version} + 1`;

/** @throws Problem 409 where a customer has been promised or brought something */
async function requireUnserved(tx: Db, target: string): Promise<void> {
  const [promised] = await tx
    .select({ id: customerOrder.id })
    .from(customerOrder)
    .where(sql`${customerOrder.facts} ->> 'customerId' = ${target}`)
    .limit(1);
  const [served] = await tx
    .select({ id: delivery.id })
    .from(delivery)
    .where(and(eq(delivery.customerId, target), eq(delivery.voided, false)))
    .limit(1);
  if (promised || served)
    throw new Problem({
      status: 409,
      code: 'in-use',
      detail: 'bars have been promised or delivered to this customer since; take that back first',
    });
}

/** Adding or changing a customer. */
const customerPut: Handler = handler({
  kind: 'customer.put',
  version: 1,
  put: {
    path: '/api/customers/:id',
    summary: 'Add a customer, or change one (If-Match)',
    tag: 'plan',
    body: CustomerPut,
    guarded: true,
  },
  body: customerEntry,
  roles: MAKERS,
  touches: ['plan'],
  line: lineOf('name'),
  keepsRead: true,
  ...ownRow(customer, 'customer', () => customerPut, requireUnserved),
});

/** Promising bars, changing what is promised, or ending it. */
const orderPut = handler({
  kind: 'order.put',
  version: 1,
  put: {
    path: '/api/orders/:id',
    summary: 'Promise bars for a time, or change the promise (If-Match)',
    tag: 'plan',
    body: OrderPut,
    guarded: true,
  },
  body: orderEntry,
  roles: MAKERS,
  touches: ['plan'],
  line: lineOf('title', 'due', 'state'),
  keepsRead: true,
  async apply({ tx, target, at, body: { ifMatch, ...order } }) {
    if (order.customerId !== null) {
      const [found] = await tx
        .select({ id: customer.id })
        .from(customer)
        .where(eq(customer.id, order.customerId));
      if (!found) throw notFound('customer', order.customerId);
    }
    for (const { recipeId } of order.lines) await requireMadeBy(tx, recipeId);
    const [old] = await tx.select().from(customerOrder).where(eq(customerOrder.id, target));
    if (!old) {
      // An order that was taken back gives its number free again, but no two have the same.
      const [{ last } = { last: 0 }] = await tx
        .select({ last: sql<number>`coalesce(max((${customerOrder.facts} ->> 'number')::int), 0)` })
        .from(customerOrder);
      const facts = StoredOrder.parse({ ...order, number: last + 1 });
      await tx.insert(customerOrder).values({ id: target, facts, state: order.state, createdAt: at });
      return;
    }
    requireMatch(ifMatch, old.version, 'order');
    const facts = StoredOrder.parse({ ...order, number: StoredOrder.parse(old.facts).number });
    await tx
      .update(customerOrder)
      .set({ facts, state: order.state, version: old.version + 1 })
      .where(eq(customerOrder.id, target));
  },
  async undo({ tx }, { target, seq }) {
    const before = await stoodBefore<z.output<typeof orderEntry>>(tx, orderPut, seq!, target);
    if (before) {
      const { ifMatch: _, ...order } = before;
      const [row] = await tx.select().from(customerOrder).where(eq(customerOrder.id, target));
      const facts = StoredOrder.parse({ ...order, number: StoredOrder.parse(row!.facts).number });
      await tx
        .update(customerOrder)
        .set({ facts, state: order.state, version: row!.version + 1 })
        .where(eq(customerOrder.id, target));
      return;
    }
    const [served] = await tx
      .select({ id: delivery.id })
      .from(delivery)
      .where(and(eq(delivery.orderId, target), eq(delivery.voided, false)))
      .limit(1);
    if (served)
      throw new Problem({
        status: 409,
        code: 'in-use',
        detail: 'bars have been delivered against this order since; take the delivery back first',
      });
    await tx.delete(customerOrder).where(eq(customerOrder.id, target));
  },
});

/** Keeping a bar in stock, or no longer. */
const aimPut: Handler = handler({
  kind: 'stock.aim',
  version: 1,
  put: {
    path: '/api/stock-aims/:id',
    summary: 'Keep a bar in stock: a floor and an aim, both 0 to end it (If-Match)',
    tag: 'plan',
    body: StockAimPut,
    guarded: true,
  },
  body: aimEntry,
  roles: MAKERS,
  touches: ['plan'],
  line: lineOf('floor', 'aim'),
  keepsRead: true,
  ...ownRow(stockAim, 'stock aim', () => aimPut),
});

/** When the workshop works. */
const hoursPut = handler({
  kind: 'hours.put',
  version: 1,
  put: {
    path: '/api/work-hours/:id',
    summary: 'When the workshop and each person works, quiet hours and holidays (If-Match)',
    tag: 'plan',
    body: WorkHoursPut,
    guarded: true,
  },
  body: hoursEntry,
  roles: OWNERS,
  touches: ['plan'],
  line: lineOf('timeZone'),
  keepsRead: true,
  async apply({ tx, body: { ifMatch, ...facts } }) {
    const [old] = await tx.select().from(workHours).where(eq(workHours.id, ONE));
    if (old) requireMatch(ifMatch, old.version, 'hours');
    const version = (old?.version ?? 0) + 1;
    await tx
      .insert(workHours)
      .values({ id: ONE, facts, version })
      .onConflictDoUpdate({ target: workHours.id, set: { facts, version } });
  },
  async undo({ tx }, { seq }) {
    const before = await stoodBefore<z.output<typeof hoursEntry>>(tx, hoursPut, seq!);
    if (!before) {
      await tx.delete(workHours).where(eq(workHours.id, ONE));
      return;
    }
    const { ifMatch: _, ...facts } = before;
    await tx
      .update(workHours)
      .set({ facts, version: nextOf(workHours.version) })
      .where(eq(workHours.id, ONE));
  },
});

/** Somebody or something is away, or it is called off. */
const absencePut: Handler = handler({
  kind: 'absence.put',
  version: 1,
  put: {
    path: '/api/absences/:id',
    summary: 'Somebody, a machine or the whole workshop is away for a time (If-Match)',
    tag: 'plan',
    body: AbsencePut,
    guarded: true,
  },
  body: absenceEntry,
  roles: MAKERS,
  touches: ['plan'],
  line: lineOf('from', 'to', 'reason'),
  keepsRead: true,
  ...ownRow(absence, 'absence', () => absencePut),
});

/** Accepting a plan; the one before is in force again when it is taken back. */
const planKeep = handler({
  kind: 'plan.keep',
  version: 1,
  put: {
    path: '/api/kept-plans/:id',
    summary: 'Accept a plan: it is in force on the board, in lists and in calendars',
    tag: 'plan',
  },
  body: PlanKeep,
  roles: MAKERS,
  touches: ['plan'],
  large: true,
  creates: true,
  keepsRead: true,
  async apply({ tx, target, at, by, body }) {
    await tx.insert(keptPlan).values({ id: target, facts: body, at, by });
  },
  async undo({ tx }, { target }) {
    await tx.update(keptPlan).set({ voided: true }).where(eq(keptPlan.id, target));
  },
});

/** Calendar addresses are everyone’s own, to make and to end. */
function requireOwn(by: string | null, personId: string): void {
  if (by !== null && by !== personId)
    throw new Problem({
      status: 403,
      code: 'not-yours',
      detail: 'everyone makes and ends the address of their own calendar',
    });
}

/** A private address for somebody’s calendar. */
const calendarOpen = handler({
  kind: 'calendar.open',
  version: 1,
  put: {
    path: '/api/calendar-addresses/:id',
    summary: 'Make a private address a calendar can subscribe to; the token stays with whoever asked',
    tag: 'plan',
  },
  body: CalendarAddressPut,
  touches: ['plan'],
  keepsRead: true,
  async apply({ tx, target, at, personId, body }) {
    const [found] = await tx.select({ id: person.id }).from(person).where(eq(person.id, body.personId));
    if (!found) throw notFound('person', body.personId);
    requireOwn(personId, body.personId);
    await tx.insert(calendarAddress).values({ id: target, ...body, createdAt: at });
  },
});

/** Ending such an address: whoever holds it gets nothing any more. */
const calendarEnd = handler({
  kind: 'calendar.end',
  version: 1,
  put: {
    path: '/api/calendar-address-ends/:id',
    summary: 'Revoke a calendar address',
    tag: 'plan',
  },
  body: CalendarAddressEnd,
  touches: ['plan'],
  keepsRead: true,
  async apply({ tx, personId, body }) {
    const [found] = await tx
      .select({ personId: calendarAddress.personId })
      .from(calendarAddress)
      .where(eq(calendarAddress.id, body.addressId));
    if (!found) throw notFound('calendar address', body.addressId);
    requireOwn(personId, found.personId);
    await tx.update(calendarAddress).set({ ended: true }).where(eq(calendarAddress.id, body.addressId));
  },
});

/** Every kind of entry of the plan. */
export const planHandlers = [
  customerPut,
  orderPut,
  aimPut,
  hoursPut,
  absencePut,
  planKeep,
  calendarOpen,
  calendarEnd,
];
