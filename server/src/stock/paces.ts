import { sql } from 'drizzle-orm';
import type { StockPace } from '@wunsch/contract';
import { keepsUntil, runsOut } from '@wunsch/core/ledger';
import { dayOf } from '@wunsch/core/plan';
import type { Db } from '../db/database.ts';
import { rowsOf } from '../db/raw.ts';
import { loadHours } from '../plan/loadRoom.ts';
import { deliveredLeft, MADE_NOW, shelfLeft } from '../stations/recipe/index.ts';
import { loadBarsOnHand } from './barsOnHand.ts';

/** How far back a pace is taken from, days. */
const LOOKED_AT = 84;

const DAY = 86_400_000;

interface Row {
  kind: StockPace['kind'];
  key: string;
  reorderAt: string | number | null;
  deliveryDays: number | null;
  name: string;
  onHand: string | number | null;
  used: string | number | null;
  first: string | null;
  /** Whether anybody has ever said how much there is. */
  isKept: boolean;
}

/** How fast ingredients, wrapping and bars go, and what runs out first; what nobody uses comes last. Bars past their best before are not there. */
export async function loadPaces(db: Db, now: number): Promise<StockPace[]> {
  const since = new Date(now - LOOKED_AT * DAY).toISOString();
  const inForce = sql`m.replaced_by is null and not m.voided`;
  const said = (what: string, kind: StockPace['kind'], key: string) =>
    sql`(select p.${sql.raw(what)} from reorder_point p where p.kind = ${kind} and p.key = ${sql.raw(key)})`;
  const saidOfBars = (what: string) =>
    sql`(select p.${sql.raw(what)} from reorder_point p where p.kind = 'bars'
      and p.key in (select v.id::text from ${MADE_NOW} v where v.now = r.now))`;
  const points = (kind: StockPace['kind'], key: string) =>
    sql`${said('at_least', kind, key)} as "reorderAt", ${said('delivery_days', kind, key)} as "deliveryDays"`;
  const rows = rowsOf<Row>(
    await db.execute(sql`
      select 'ingredient' as kind, i.id::text as key, ${points('ingredient', 'i.id::text')}, i.name, coalesce(${shelfLeft('i')}, 0) + coalesce(h.mg, 0) as "onHand", u.mg as used, u.first::text as first,
        ${shelfLeft('i')} is not null or h.mg is not null as "isKept"
      from ingredient i
      left join lateral (select ${deliveredLeft('i')} as mg) h on true
      left join lateral (select sum(m.mass_mg) as mg, min(m.at) as first from movement m
        where m.ingredient_id = i.id and m.direction = 'in' and ${inForce} and m.at >= ${since}::timestamptz) u on true
      where h.mg is not null or u.mg is not null or exists (select 1 from reorder_point p where p.kind = 'ingredient' and p.key = i.id::text)
      union all
      select 'packaging', h.label, ${points('packaging', 'h.label')}, h.label, h.n, u.n, u.first::text, true
      from (select label, sum(case when on_hold then 0 else coalesce(count, 0) end) as n from parcel where material = 'packaging' group by label) h
      left join lateral (select sum(m.count) as n, min(m.at) as first from movement m join parcel p on p.id = m.parcel_id
        where p.material = 'packaging' and p.label = h.label and m.direction = 'in' and ${inForce} and m.at >= ${since}::timestamptz) u on true
      union all
      select 'bars', r.now::text, ${saidOfBars('at_least')}, ${saidOfBars('delivery_days')}, r.name, null, sum(u.n), min(u.first)::text, true
      from parcel h join batch b on b.id = h.batch_id and b.state <> 'void' join ${MADE_NOW} r on r.id = coalesce(b.recipe_id, b.lot_id)
      left join lateral (select sum(m.count) as n, min(m.at) as first from movement m join step s on s.id = m.step_id and s.kind = 'leave'
        where m.parcel_id = h.id and m.direction = 'in' and ${inForce} and m.at >= ${since}::timestamptz) u on true
      where h.material = 'bars' group by r.now, r.name`),
  );
  const day = dayOf(now, (await loadHours(db)).timeZone);
  const bars = new Map<string, number>();
  for (const b of await loadBarsOnHand(db))
    if (b.recipeId !== null && keepsUntil(b.bestBefore, day))
      bars.set(b.recipeId, (bars.get(b.recipeId) ?? 0) + b.bars);
  return rows
    .map((r): StockPace => {
      const onHand = r.kind === 'bars' ? (bars.get(r.key) ?? 0) : Number(r.onHand ?? 0);
      const used = Number(r.used ?? 0);
      // What has been used for a week only has a pace of a week, not of twelve.
      const days = r.first ? Math.min(LOOKED_AT, Math.max(7, (now - Date.parse(r.first)) / DAY)) : LOOKED_AT;
      // Sugar weighed in by somebody who keeps no stock of it has not run out.
      const daysLeft = r.isKept ? runsOut({ onHand, used, days }) : null;
      const reorderAt = r.reorderAt === null ? null : Number(r.reorderAt);
      const { kind, key, name, deliveryDays } = r;
      return { kind, key, name, onHand, used, days, daysLeft, reorderAt, deliveryDays };
    })
    .sort((a, b) => (a.daysLeft ?? Infinity) - (b.daysLeft ?? Infinity) || a.name.localeCompare(b.name));
}
