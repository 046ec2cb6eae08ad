import { sql } from 'drizzle-orm';
import type { BatchCost } from '@wunsch/contract';
import { addCosts, type CostFlow, type Costs } from '@wunsch/core/cost';
import type { StepKind } from '@wunsch/core/ledger';
import type { Db } from '../db/database.ts';
import { rowsOf, uuids } from '../db/raw.ts';

/** Bars of a batch at a place on their way: on hand, into a step, or back out of one. */
export interface BarRow {
  batchId: string;
  parcelId: string;
  kind: StepKind | 'here';
  direction: 'in' | 'out' | 'here';
  channel: BatchCost['channels'][number]['channel'] | null;
  destination: string | null;
  price: number | null;
  fetched: number | null;
  stepCount: string | number | null;
  massMg: string | number;
  count: string | number | null;
}

/** Bars’ steps through which they only pass. */
const PASSED: ReadonlySet<string> = new Set(['wrap', 'part']);

/** Bars at the end of their way: on hand, gone, lost or melted; below 0 where they came back. */
export interface BarEnd {
  parcelId: string;
  bars: number;
  massMg: number;
}

/** What a line says of where bars ended; null where they only pass. */
export function endOf({ parcelId, kind, direction, count, massMg }: BarRow): BarEnd | null {
  const isEnd = direction === 'here' || (direction === 'in' && !PASSED.has(kind));
  // What came back stands on hand again; what was found had been counted as missing.
  const isBack = direction === 'out' && (kind === 'leave' || kind === 'count');
  if (!isEnd && !isBack) return null;
  const sign = isBack ? -1 : 1;
  return { parcelId, bars: sign * Number(count ?? 0), massMg: sign * Number(massMg) };
}

/** Whether some wrapping off the stock went around bars of a parcel. */
export const isWrapped = ({ parcelId }: BarEnd, unit: CostFlow['unit']): boolean =>
  (unit.get(parcelId)?.packaging ?? 0) > 0;

/** Adds what bars have cost; those that no wrapping was noted for are reckoned at the workshop’s usual. */
export function addEnd(to: Costs, end: BarEnd, unit: CostFlow['unit'], packagingPerBar: number): void {
  const costs = unit.get(end.parcelId);
  if (costs) addCosts(to, costs, end.massMg);
  if (!isWrapped(end, unit)) to.packaging += end.bars * packagingPerBar;
}

/** Where bars of some batches are and went: on hand, into steps, and back out of deliveries and counts. */
export async function loadBars(db: Db, batchIds: readonly string[]): Promise<BarRow[]> {
  return rowsOf<BarRow>(
    await db.execute(sql`
      select p.batch_id as "batchId", p.id as "parcelId", 'here' as kind, 'here' as direction, null as channel, null as destination,
        null::float8 as price, null::float8 as fetched, null as "stepCount", p.remaining_mg as "massMg", p.count
      from parcel p where p.batch_id = any(${uuids(batchIds)}) and p.material = 'bars' and p.remaining_mg > 0
      union all
      select p.batch_id, p.id, s.kind, m.direction, c.channel, s.details ->> 'destination', x.price,
        (s.details ->> 'fetched')::float8, t.n, m.mass_mg, m.count
      from parcel p join movement m on m.parcel_id = p.id and m.replaced_by is null and not m.voided
      join step s on s.id = m.step_id
      left join delivery_line x on x.step_id = s.id
      left join delivery d on d.id = x.delivery_id
      left join customer c on c.id = d.customer_id
      left join lateral (select sum(count) as n from movement where step_id = s.id and direction = 'in' and replaced_by is null
        and not voided) t on s.kind = 'leave'
      where p.batch_id = any(${uuids(batchIds)}) and p.material = 'bars'
        and (m.direction = 'in' or (m.direction = 'out' and s.kind in ('leave', 'count')))`),
  );
}
