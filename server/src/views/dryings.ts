import { sql } from 'drizzle-orm';
import { dryMatter, type DryStart, type DryWeighing } from '@wunsch/core/ferment';
import type { Db } from '../db/database.ts';
import { rowsOf } from '../db/raw.ts';

/** A lot whose drying was weighed, from when its moisture was first known. */
export interface WeighedDrying {
  id: string;
  code: string;
  start: DryStart;
  /** Hours since then; the first at 0. */
  weighings: DryWeighing[];
  /** Instant of the last weighing. */
  lastAt: string;
}

interface Row {
  id: string;
  code: string;
  weighings: { at: string; massMg: number; moisture: number | null }[];
}

/** Dryings that can be followed, by their last weighing; one that weighs less than its own dry matter is left out. */
export async function weighedDryings(db: Db): Promise<WeighedDrying[]> {
  const rows = rowsOf<Row>(
    await db.execute(sql`
      select l.id, l.code, json_agg(json_build_object('at', o.at, 'massMg', o.data->'massMg', 'moisture', o.data->'moisture')
          order by o.at, o.seq) as weighings
      from observation o join lot l on l.id = o.lot_id
      where o.data->>'kind' = 'drying' and o.replaced_by is null and not o.voided
      group by l.id, l.code order by max(o.at)`),
  );
  return rows.flatMap(({ id, code, weighings }) => {
    const from = weighings.findIndex((w) => w.moisture !== null);
    const first = weighings[from];
    if (!first) return [];
    const start = { mass: first.massMg, moisture: first.moisture! };
    const points = weighings.slice(from).map((w) => ({
      hours: (Date.parse(w.at) - Date.parse(first.at)) / 3_600_000,
      mass: w.massMg,
    }));
    const dry = dryMatter(start);
    if (points.some((p) => p.mass <= dry)) return [];
    return [{ id, code, start, weighings: points, lastAt: new Date(weighings.at(-1)!.at).toISOString() }];
  });
}
