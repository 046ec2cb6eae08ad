import { sql } from 'drizzle-orm';
import { expectedYield, historyOf, STATIONS, type ExpectedYield, type Station } from '@wunsch/core/ledger';
import type { Db } from '../db/database.ts';

/** Yield of one station of one earlier batch. */
export interface PastYield {
  station: Station;
  batchId: string;
  batchCode: string;
  lotId: string;
  startedAt: string;
  /** Wanted output ÷ input. */
  value: number;
  /** Whether it is of the workshop's latest batches, whichever lots were asked for besides. */
  isLatest: boolean;
}

/** Earlier batches looked at: of each lot, and of the workshop as a whole. */
const PER_LOT = 12;
const WORKSHOP = 12;

/** Work that has a yield. */
const YIELDING = sql.raw(`'sort', 'roast', 'winnow', 'grind', 'conche', 'temper', 'mould'`);

/** Batches that have got as far as a yield: one that was only begun takes no place among the latest. */
const FURTHER = sql`b.state <> 'void' and exists (
  select 1 from step s where s.batch_id = b.id and s.status = 'closed' and not s.voided and s.kind in (${YIELDING})
)`;

/** Yields of the latest batches of some lots and of the workshop, oldest first; void batches and open steps left out. */
export async function loadPastYields(db: Db, lotIds: readonly string[]): Promise<PastYield[]> {
  const lots =
    lotIds.length > 0
      ? sql`array[${sql.join(
          lotIds.map((id) => sql`${id}::uuid`),
          sql`, `,
        )}]`
      : sql`array[]::uuid[]`;
  const result = await db.execute(sql`
    with latest as (
      select b.id, b.code, b.lot_id, b.started_at from batch b where ${FURTHER} order by b.started_at desc, b.id desc limit ${WORKSHOP}
    ), chosen as (
      select f.* from unnest(${lots}) as l(id)
        cross join lateral (
          select b.id, b.code, b.lot_id, b.started_at from batch b
          where b.lot_id = l.id and ${FURTHER} order by b.started_at desc, b.id desc limit ${PER_LOT}
        ) f
      union
      select * from latest
    )
    select y.station, c.id as batch_id, c.code, c.lot_id, c.started_at, y.mass_in, y.mass_out,
      c.id in (select id from latest) as is_latest
    from chosen c
    -- Batch by batch along the indexes: with ten years of movements a planner left free reads them all.
    cross join lateral (
      select s.station,
        sum(case when m.direction = 'in' and not m.chained then m.mass_mg else 0 end)::float8 as mass_in,
        sum(case when m.direction = 'out' and m.material not in ('rejects', 'husk', 'fines', 'rework') then m.mass_mg
          when m.chained then -m.mass_mg else 0 end)::float8 as mass_out
      from step s
      cross join lateral (
        -- What one step of a station hands to the next (grinder to conche) is neither in nor out of the station.
        select m1.direction, m1.material, m1.mass_mg,
          m1.direction = 'in' and coalesce(ps.batch_id = s.batch_id and ps.station = s.station, false) as chained
        from movement m1
        left join parcel pp on pp.id = m1.parcel_id and m1.direction = 'in'
        left join step ps on ps.id = pp.step_id
        where m1.step_id = s.id and m1.replaced_by is null and not m1.voided and m1.direction <> 'loss' offset 0
      ) m
      where s.batch_id = c.id and s.status = 'closed' and not s.voided and s.kind in (${YIELDING})
        -- Of what is poured into shells a third drains back: no bars are foretold by that.
        and s.details -> 'shells' is null
      group by s.station offset 0
    ) y
    order by c.started_at, c.id, y.station`);
  const rows = (result as unknown as { rows: Record<string, unknown>[] }).rows;
  return rows
    .map((r) => ({
      station: r.station as Station,
      batchId: String(r.batch_id),
      batchCode: String(r.code),
      lotId: String(r.lot_id),
      startedAt: new Date(r.started_at as string).toISOString(),
      isLatest: r.is_latest === true,
      value: Number(r.mass_in) > 0 ? Number(r.mass_out) / Number(r.mass_in) : Number.NaN,
    }))
    .filter((y) => Number.isFinite(y.value) && y.value > 0 && y.value <= 1.2);
}

type Expected = Partial<Record<Station, ExpectedYield>>;

/** What followed from yields that are kept: reckoned once for each batch, not at every look at the Bench. */
const reckoned = new WeakMap<readonly PastYield[], Map<string, Expected>>();

/**
 * What a lot's next batch should yield at each station, this batch itself left out: the same wherever it is asked, with which other lots
 * ever beside it.
 */
export function expectedYields(past: readonly PastYield[], lotId: string, batchId: string): Expected {
  const known = reckoned.get(past) ?? new Map<string, Expected>();
  reckoned.set(past, known);
  const key = `${lotId} ${batchId}`;
  const found = known.get(key);
  if (found) return found;
  const expected: Expected = {};
  for (const station of STATIONS) {
    if (station === 'beans' || station === 'recipe' || station === 'taste') continue;
    const here = past.filter((y) => y.station === station && y.batchId !== batchId);
    const counting = here.filter((y) => y.isLatest || y.lotId === lotId);
    expected[station] = expectedYield(historyOf(station, counting, lotId));
  }
  known.set(key, expected);
  return expected;
}
