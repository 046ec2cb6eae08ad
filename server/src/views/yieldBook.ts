import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { YieldBook } from '@wunsch/contract';
import { STATIONS, type Station } from '@wunsch/core/ledger';
import type { Db } from '../db/database.ts';
import { instantOf, rowsOf } from '../db/raw.ts';
import type { App } from '../http/types.ts';
import { loadHours } from '../plan/loadRoom.ts';

/** What comes off beside the wanted output. */
const BESIDE = sql`('rejects', 'husk', 'fines', 'rework')`;

/** Work whose yield is worth a chart. */
const CHARTED = sql`('sort', 'roast', 'winnow', 'grind', 'conche', 'temper', 'mould')`;

interface YieldRow {
  batchId: string;
  batchCode: string;
  station: Station;
  lotId: string;
  lotName: string;
  machine: string | null;
  by: string;
  at: string;
  inMg: number;
  outMg: number;
  besideMg: number;
  /** Shells that were filled: a third of what is poured drains back, which no yield of bars is to be judged by. */
  shells: boolean;
}

/** When a year begins where the workshop is. */
const yearStart = (year: number, timeZone: string) =>
  sql`(${`${year}-01-01 00:00`}::timestamp at time zone ${timeZone})`;

/** Yields of a year by batch and station, and where its mass went. What a station hands on within itself is neither in nor out. */
export async function yieldBook(db: Db, asked: number | undefined): Promise<YieldBook> {
  const { timeZone } = await loadHours(db);
  const years = rowsOf<{ year: number }>(
    await db.execute(sql`
      select distinct extract(year from s.ended_at at time zone ${timeZone})::int as year from step s
      where s.ended_at is not null and not s.voided and s.kind in ${CHARTED} order by 1 desc`),
  ).map((r) => Number(r.year));
  const year = asked ?? years[0] ?? new Date().getUTCFullYear();
  // Closed steps of batches that are not void, ended in the year.
  const ofYear = sql`s.status = 'closed' and not s.voided and s.kind in ${CHARTED} and b.state <> 'void'
    and s.ended_at >= ${yearStart(year, timeZone)} and s.ended_at < ${yearStart(year + 1, timeZone)}`;
  const rows = rowsOf<YieldRow>(
    await db.execute(sql`
      with chosen as (
        select s.id, s.batch_id, s.station, s.machine_id, array_to_string(coalesce(s.hands, array[s.by]), ', ') as by, s.ended_at, s.details -> 'shells' is not null as shells from step s join batch b on b.id = s.batch_id
        where ${ofYear}
      )
      select c.batch_id as "batchId", b.code as "batchCode", c.station, b.lot_id as "lotId", l.name as "lotName",
        max(mc.name) as machine, max(c.by) as by, ${instantOf('max(c.ended_at)')} as at,
        sum(m.mass_in)::float8 as "inMg", sum(m.mass_out)::float8 as "outMg", sum(m.mass_beside)::float8 as "besideMg",
        bool_or(c.shells) as shells
      from chosen c
      join batch b on b.id = c.batch_id
      join lot l on l.id = b.lot_id
      left join machine mc on mc.id = c.machine_id
      cross join lateral (
        select
          sum(case when x.direction = 'in' and not x.chained then x.mass_mg else 0 end) as mass_in,
          sum(case when x.direction = 'out' and x.material not in ${BESIDE} then x.mass_mg when x.chained then -x.mass_mg else 0 end) as mass_out,
          sum(case when x.direction = 'out' and x.material in ${BESIDE} then x.mass_mg else 0 end) as mass_beside
        from (
          select m1.direction, m1.material, m1.mass_mg,
            m1.direction = 'in' and coalesce(ps.batch_id = c.batch_id and ps.station = c.station, false) as chained
          from movement m1
          left join parcel pp on pp.id = m1.parcel_id and m1.direction = 'in'
          left join step ps on ps.id = pp.step_id
          where m1.step_id = c.id and m1.replaced_by is null and not m1.voided and m1.direction <> 'loss' offset 0
        ) x
      ) m
      group by c.batch_id, b.code, c.station, b.lot_id, l.name
      order by max(c.ended_at), c.batch_id`),
  );
  const losses = rowsOf<{ station: Station; reason: string; massMg: number }>(
    await db.execute(sql`
      select s.station, coalesce(m.reason, 'unexplained') as reason, sum(m.mass_mg)::float8 as "massMg"
      from step s join batch b on b.id = s.batch_id
      join movement m on m.step_id = s.id and m.direction = 'loss' and m.replaced_by is null and not m.voided
      where ${ofYear}
      group by 1, 2 order by 3 desc`),
  );
  const [came] = rowsOf<{ massMg: number; lots: number }>(
    await db.execute(sql`
      select coalesce(sum(m.mass_mg), 0)::float8 as "massMg", count(distinct p.lot_id)::int as lots
      from step s join batch b on b.id = s.batch_id
      join movement m on m.step_id = s.id and m.direction = 'in' and m.replaced_by is null and not m.voided
      join parcel p on p.id = m.parcel_id and p.batch_id is null and p.lot_id is not null
      where ${ofYear}`),
  );
  // As the work goes, whichever was closed first this year.
  const stations = STATIONS.filter((station) => rows.some((r) => r.station === station));
  const total = (station: Station, of: (r: YieldRow) => number) =>
    rows.filter((r) => r.station === station).reduce((sum, r) => sum + of(r), 0);
  return {
    years,
    year,
    came: came!,
    yields: rows
      .filter((r) => r.inMg > 0 && r.outMg > 0 && !r.shells)
      .map(({ besideMg: _, shells: __, ...r }) => r),
    flow: stations.map((station) => ({
      station,
      inMg: total(station, (r) => r.inMg),
      outMg: total(station, (r) => r.outMg),
      besideMg: total(station, (r) => r.besideMg),
      losses: losses
        .filter((l) => l.station === station && l.massMg !== 0)
        .map(({ reason, massMg }) => ({ reason, massMg })),
    })),
  };
}

/** Yields over a year. */
export function yieldRoutes(app: App): void {
  app.get(
    '/api/yields',
    {
      config: { cached: true },
      schema: {
        tags: ['ledger'],
        summary: 'Yields of a year by batch and station, and where its mass went',
        querystring: z.object({ year: z.coerce.number().int().min(1970).max(2200).optional() }),
        response: { 200: YieldBook },
      },
    },
    (request) => yieldBook(request.store.db, request.query.year),
  );
}
