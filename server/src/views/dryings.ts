import { sql } from 'drizzle-orm';
import { type KeptWeighing } from '@wunsch/core/ferment';
import type { Db } from '../db/database.ts';
import { rowsOf } from '../db/raw.ts';

/** A lot whose drying was weighed. */
export interface WeighedDrying {
  id: string;
  code: string;
  /** As they were kept, in order, hours since the first. */
  weighings: KeptWeighing[];
  /** Instant of the last weighing. */
  lastAt: string;
}

interface Row {
  id: string;
  code: string;
  weighings: { at: string; massMg: number; moisture: number | null }[];
}

/** Dryings of which a moisture was measured once, by their last weighing. */
export async function weighedDryings(db: Db): Promise<WeighedDrying[]> {
  const rows = rowsOf<Row>(
    await db.execute(sql`
      select l.id, l.code, json_agg(json_build_object('at', o.at, 'massMg', o.data->'massMg', 'moisture', o.data->'moisture')
          order by o.at, o.seq) as weighings
      from observation o join lot l on l.id = o.lot_id
      where o.data->>'kind' = 'drying' and o.replaced_by is null and not o.voided
      group by l.id, l.code order by max(o.at)`),
  );
  return rows
    .filter((row) => row.weighings.some((w) => w.moisture !== null))
    .map(({ id, code, weighings }) => ({
      id,
      code,
      weighings: weighings.map((w) => ({
        hours: (Date.parse(w.at) - Date.parse(weighings[0]!.at)) / 3_600_000,
        mass: w.massMg,
        moisture: w.moisture,
      })),
      lastAt: new Date(weighings.at(-1)!.at).toISOString(),
    }));
}
