import { and, eq, sql } from 'drizzle-orm';
import { ImportPut } from '@wunsch/contract';
import { handler, lineOf, MAKERS, type Context, type Handler } from '../commands/command.ts';
import { asRefusal } from '../commands/refusal.ts';
import { customer, customerOrder, delivery, deliveryLine, importRun, tasting } from '../db/schema/index.ts';
import type { Brought } from '../db/schema/imports.ts';
import { notFound, Problem } from '../http/problem.ts';
import { batchStart } from '../ledger/batches.ts';
import { lotReceive } from '../stations/beans/handlers.ts';
import { deliveryMake } from '../stock/deliveries.ts';
import { takeBatch, takeLot, takeSale, takeTasting, type TakeOver } from './takeOver.ts';

/** Largest table over the door, bytes. */
const LARGEST = 2 * 1024 * 1024;

const TAKE = { lots: takeLot, batches: takeBatch, sales: takeSale, tastings: takeTasting };

/** A refusal that says which row of the file it is about. */
function ofRow(error: unknown, row: number): unknown {
  const refusal = asRefusal(error);
  if (!(refusal instanceof Problem)) return refusal;
  const { status, code, message: detail, field, params } = refusal;
  return new Problem({
    status,
    code: 'import-row',
    ...(field && { field: `rows.${row}.${field}` }),
    detail: `row ${row}: ${detail}`,
    params: { ...params, row, why: detail, because: code },
  });
}

/** Taking over an old table of lots, batches, sales or tastings: every row, or none. */
export const importAdd = handler({
  kind: 'import.add',
  version: 1,
  put: {
    path: '/api/imports/:id',
    summary: 'Take over an old table of lots, batches, sales or tastings; every row stands, or none does',
    tag: 'files',
    bodyLimit: LARGEST,
  },
  body: ImportPut,
  roles: MAKERS,
  creates: true,
  // What it brought is kept in a table of its own; the rows need not stand in the trail as well.
  large: true,
  touches: ['imports', 'lots', 'batches', 'stock', 'yields', 'runs', 'tastings', 'plan'],
  line: lineOf('file', 'of'),
  async apply(context) {
    const { tx, target, body, at, by, seq } = context;
    const brought: Brought[] = [];
    const take = TAKE[body.of] as TakeOver<{ row: number }>;
    for (const row of body.rows) {
      try {
        brought.push(...(await take(context, row)));
      } catch (error) {
        throw ofRow(error, row.row);
      }
    }
    await tx
      .insert(importRun)
      .values({ id: target, of: body.of, file: body.file, rows: body.rows.length, brought, at, by, seq });
  },
  async undo(context, { target }) {
    const { tx } = context;
    const [run] = await tx
      .select()
      .from(importRun)
      .where(and(eq(importRun.id, target), eq(importRun.voided, false)));
    if (!run) throw notFound('import', target);
    for (const thing of [...run.brought].reverse()) await takeBack(context, thing);
    await tx.update(importRun).set({ voided: true }).where(eq(importRun.id, target));
  },
});

const undoOf = (of: Handler, context: Context, target: string, body: object) =>
  of.undo!(context, { target, body: body as never, batchId: null });

/** Takes one thing back that a table brought. @throws Problem where something else has been made of it since */
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

/** Kinds of entry that take over what was kept elsewhere. */
export const importHandlers: readonly Handler[] = [importAdd];
