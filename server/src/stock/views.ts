import { asc, eq, sql } from 'drizzle-orm';
import {
  STOCK_SHOWN,
  type CustomerBook,
  type Delivery,
  type StockItem,
  type StockProof,
} from '@wunsch/contract';
import { originsBehind, type Material } from '@wunsch/core/ledger';
import type { Db } from '../db/database.ts';
import { customer } from '../db/schema/index.ts';
import { instantOf, rowsOf } from '../db/raw.ts';
import { whenMade } from '../ledger/days.ts';
import { loadOrders } from '../plan/loadRoom.ts';
import { loadMadeNow, MADE_NOW } from '../stations/recipe/index.ts';
import { loadLineage } from '../views/lineage.ts';
import { deliveredBars, stillWanted } from './deliveries.ts';
import { printedOn } from './printed.ts';

/** Most parcels shown. Where there are more, all lots and deliveries are shown, and of the rest the newest. */
const MOST = STOCK_SHOWN;

interface ItemRow extends Omit<StockItem, 'remainingMg' | 'bestBefore' | 'madeOf'> {
  remainingMg: string | number;
  declared: string | null;
}

/** What is on hand and shown: where a parcel lies, in the order in which those that do not fit are left out. */
export const ON_HAND = sql`
  from parcel p
  left join batch b on b.id = p.batch_id
  left join supply u on u.parcel_id = p.id
  where p.remaining_mg > 0 and (b.state is null or b.state <> 'void')
  order by p.lot_id is null and u.parcel_id is null, p.made_at desc, p.id desc limit ${MOST}`;

/** Everything on hand, oldest first, with its best before. */
export async function loadStockItems(db: Db): Promise<StockItem[]> {
  const rows = rowsOf<ItemRow>(
    await db.execute(sql`
      select p.id, p.material, p.label, p.lot_id as "lotId", p.batch_id as "batchId", b.code as "batchCode",
        coalesce(l.code, bl.code) as "lotCode", coalesce(l.name, bl.name) as "lotName", bl.id as "batchLotId", p.step_id as "stepId",
        p.remaining_mg as "remainingMg", p.count, p.place, (p.on_hold or coalesce(l.on_hold, false)) as "onHold",
        case when p.on_hold then p.hold_reason else coalesce(l.hold_reason, '') end as "holdReason",
        ${instantOf('p.made_at')} as "madeAt", n.now as "recipeId", r.name as "recipeName", u.best_before::text as declared
      from (select p.* ${ON_HAND}) p
      left join batch b on b.id = p.batch_id
      left join lot l on l.id = p.lot_id
      left join lot bl on bl.id = b.lot_id
      left join recipe r on r.id = b.recipe_id
      left join ${MADE_NOW} n on n.id = coalesce(b.recipe_id, b.lot_id)
      left join supply u on u.parcel_id = p.id`),
  ).sort((a, b) => a.madeAt.localeCompare(b.madeAt) || a.id.localeCompare(b.id));
  // Of no lot or batch itself, yet of some cacao: butter and powder from the press, boxes of several batches.
  const mixed = new Set(
    rows.flatMap((r) =>
      r.batchId === null && r.lotId === null && r.material !== 'ingredient' && r.material !== 'packaging'
        ? [r.id]
        : [],
    ),
  );
  const lineage = await loadLineage(db, [...mixed], 'back');
  const printed = await printedOn(
    db,
    rows.filter((r) => ['bars', 'blocks', 'filling'].includes(r.material)).map((r) => r.id),
  );
  return rows.map(({ declared, ...r }) => {
    const remainingMg = Number(r.remainingMg);
    return {
      ...r,
      madeAt: whenMade(r),
      remainingMg,
      bestBefore: declared ?? printed.get(r.id)?.bestBefore ?? null,
      barCode: printed.get(r.id)?.barCode ?? null,
      madeOf: mixed.has(r.id) ? originsBehind(lineage, [r.id]).map((o) => o.name) : [],
    };
  });
}

interface LineRow {
  id: string;
  number: number;
  customerId: string;
  customer: string;
  orderId: string | null;
  orderTitle: string | null;
  note: string;
  at: string;
  by: string;
  stepId: string;
  parcelId: string;
  material: Material;
  label: string;
  batchId: string | null;
  batchCode: string | null;
  recipeName: string | null;
  lotName: string | null;
  lotId: string | null;
  lotCode: string | null;
  takenMg: string | number | null;
  taken: string | number | null;
  returnedMg: string | number | null;
  returned: string | number | null;
  price: number | null;
}

/** Deliveries, newest first, with what has come back of them. */
export async function loadDeliveries(
  db: Db,
  { id, limit = 200 }: { id?: string; limit?: number } = {},
): Promise<Delivery[]> {
  const rows = rowsOf<LineRow>(
    await db.execute(sql`
      select d.id, d.number, d.customer_id as "customerId", c.name as customer, d.order_id as "orderId",
        o.facts ->> 'title' as "orderTitle", d.note, ${instantOf('d.at')} as at, d.by,
        x.step_id as "stepId", x.parcel_id as "parcelId", p.material, p.label, p.batch_id as "batchId", b.code as "batchCode",
        r.name as "recipeName", coalesce(l.name, bl.name) as "lotName", l.id as "lotId", l.code as "lotCode", x.price,
        t.mg as "takenMg", t.n as taken, back.mg as "returnedMg", back.n as returned
      from (select * from delivery where not voided ${id ? sql`and id = ${id}::uuid` : sql``}
        order by at desc, number desc limit ${limit}) d
      join customer c on c.id = d.customer_id
      left join customer_order o on o.id = d.order_id
      join delivery_line x on x.delivery_id = d.id
      join parcel p on p.id = x.parcel_id
      left join batch b on b.id = p.batch_id
      left join recipe r on r.id = b.recipe_id
      left join lot l on l.id = p.lot_id
      left join lot bl on bl.id = b.lot_id
      left join lateral (select sum(mass_mg) as mg, sum(count) as n from movement where step_id = x.step_id
        and direction = 'in' and replaced_by is null and not voided) t on true
      left join lateral (select sum(mass_mg) as mg, sum(count) as n from movement where step_id = x.step_id
        and direction = 'out' and replaced_by is null and not voided) back on true
      order by d.at desc, d.number desc, x.step_id`),
  );
  const printed = await printedOn(db, [
    ...new Set(rows.filter((r) => r.material === 'bars' || r.material === 'blocks').map((r) => r.parcelId)),
  ]);
  const found = new Map<string, Delivery>();
  for (const r of rows) {
    const known: Delivery = found.get(r.id) ?? {
      id: r.id,
      number: r.number,
      customerId: r.customerId,
      customer: r.customer,
      orderId: r.orderId,
      orderTitle: r.orderTitle ?? '',
      note: r.note,
      at: r.at,
      by: r.by,
      lines: [],
    };
    found.set(r.id, known);
    const [returnedMg, returnedCount] = [Number(r.returnedMg ?? 0), Number(r.returned ?? 0)];
    known.lines.push({
      stepId: r.stepId,
      parcelId: r.parcelId,
      material: r.material,
      label: r.label,
      batchId: r.batchId,
      batchCode: r.batchCode,
      recipeName: r.recipeName,
      lotName: r.lotName,
      lotId: r.batchId === null ? r.lotId : null,
      lotCode: r.batchId === null ? r.lotCode : null,
      barCode: printed.get(r.parcelId)?.barCode ?? null,
      bestBefore: printed.get(r.parcelId)?.bestBefore ?? null,
      massMg: Number(r.takenMg ?? 0) - returnedMg,
      count: r.taken === null ? null : Number(r.taken) - returnedCount,
      returnedMg,
      returnedCount,
      price: r.price,
    });
  }
  return [...found.values()];
}

/** Customers, and what is still promised to them, the most urgent first. */
export async function loadCustomerBook(db: Db): Promise<CustomerBook> {
  const madeNow = await loadMadeNow(db);
  const delivered = await deliveredBars(db);
  const open = (await loadOrders(db, madeNow)).filter((o) => o.state === 'open');
  return {
    customers: await db
      .select()
      .from(customer)
      .where(eq(customer.voided, false))
      .orderBy(asc(customer.name), asc(customer.id)),
    orders: open.map(({ id, number, title, customerId, due, lines }) => ({
      id,
      number,
      title,
      customerId,
      due,
      lines: stillWanted(lines, delivered.get(id)).map(({ recipeId, lotId, bars, price }) => ({
        recipeId,
        recipeName: madeNow.nameOf(recipeId),
        lotId,
        bars,
        price,
      })),
    })),
  };
}

/** Whether the books come out even: all that came against all that is, went and was lost, in milligrams and in bars. */
export async function loadProof(db: Db): Promise<StockProof> {
  const inForce = sql`m.replaced_by is null and not m.voided`;
  const sums = rowsOf<{
    kind: string;
    open: boolean;
    direction: 'in' | 'out' | 'loss';
    reason: string | null;
    shelf: boolean;
    bars: boolean;
    mg: string | number;
    n: string | number | null;
  }>(
    await db.execute(sql`
      select s.kind, s.status = 'open' as open, m.direction, m.mass_mg < 0 as negative,
        case when m.direction = 'loss' then m.reason end as reason, m.parcel_id is null as shelf,
        coalesce(m.material = 'bars', false) as bars, sum(m.mass_mg) as mg, sum(m.count) as n
      from movement m join step s on s.id = m.step_id
      where ${inForce}
      group by 1, 2, 3, 4, 5, 6, 7`),
  );
  const [hand] = rowsOf<{ mg: string | number; n: string | number }>(
    await db.execute(sql`select coalesce(sum(remaining_mg), 0) as mg,
      coalesce(sum(count) filter (where material = 'bars'), 0) as n from parcel`),
  );
  const total = (fits: (r: (typeof sums)[number]) => boolean, what: 'mg' | 'n' = 'mg') =>
    sums.reduce((sum, r) => sum + (fits(r) ? Number(r[what] ?? 0) : 0), 0);
  const receivedMg = total((r) => r.kind === 'receive' && r.direction === 'out');
  const offShelfMg = total((r) => r.direction === 'in' && r.shelf);
  const lossRows = sums.filter((r) => r.direction === 'loss');
  const foundMg = -lossRows.reduce((sum, r) => sum + Math.min(0, Number(r.mg)), 0);
  const leftMg = lossRows.reduce((sum, r) => sum + (r.kind === 'leave' ? Math.max(0, Number(r.mg)) : 0), 0);
  const losses = new Map<string, number>();
  for (const r of lossRows)
    if (r.kind !== 'leave' && Number(r.mg) > 0)
      losses.set(r.reason ?? 'unexplained', (losses.get(r.reason ?? 'unexplained') ?? 0) + Number(r.mg));
  const inProcessMg = sums.reduce(
    (sum, r) => sum + (r.open && r.kind !== 'receive' ? Number(r.mg) * (r.direction === 'in' ? 1 : -1) : 0),
    0,
  );
  const onHandMg = Number(hand?.mg ?? 0);
  const lossMg = [...losses.values()].reduce((a, b) => a + b, 0);
  const beside = new Set(['wrap', 'leave', 'count', 'part', 'drain', 'press', 'write-off', 'receive']);
  const bars = (kind: (k: string) => boolean, direction: 'in' | 'out') =>
    total((r) => r.bars && r.direction === direction && kind(r.kind), 'n');
  const made = bars((k) => k === 'receive' || !beside.has(k), 'out');
  const found = bars((k) => k === 'count', 'out');
  const left = bars((k) => k === 'leave', 'in') - bars((k) => k === 'leave', 'out');
  const lost = bars((k) => k === 'count' || k === 'write-off', 'in');
  const passed = (k: string) => k === 'wrap' || k === 'part';
  const melted = bars((k) => !beside.has(k), 'in') + bars(passed, 'in') - bars(passed, 'out');
  const onHand = Number(hand?.n ?? 0);
  return {
    mass: {
      receivedMg,
      offShelfMg,
      foundMg,
      onHandMg,
      inProcessMg,
      leftMg,
      losses: [...losses]
        .map(([reason, massMg]) => ({ reason, massMg }))
        .sort((a, b) => b.massMg - a.massMg || a.reason.localeCompare(b.reason)),
      differenceMg: receivedMg + offShelfMg + foundMg - onHandMg - inProcessMg - leftMg - lossMg,
    },
    bars: {
      made,
      found,
      onHand,
      left,
      lost,
      melted,
      difference: made + found - onHand - left - lost - melted,
    },
  };
}
