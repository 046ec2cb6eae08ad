import { sql } from 'drizzle-orm';
import { FILLING_SHORTLY_DAYS, KEEPS_SHORTLY_DAYS, type DatedStock } from '@wunsch/contract';
import { keepsUntil } from '@wunsch/core/ledger';
import { dayOf } from '@wunsch/core/plan';
import type { Db } from '../db/database.ts';
import { rowsOf } from '../db/raw.ts';
import { loadHours } from '../plan/loadRoom.ts';
import { FREE_BARS } from './barsOnHand.ts';
import { printedOn } from './printed.ts';

const DAY = 86_400_000;

/** Most names told of each. */
const NAMED = 3;

interface OnHand {
  id: string;
  of: 'bars' | 'deliveries' | 'fillings';
  name: string;
  /** Pieces of bars; null of anything else. */
  bars: number | null;
  declared: string | null;
}

/** What on hand is past its best before on the workshop’s day, and what will be shortly. */
export async function loadDated(db: Db, now: number): Promise<DatedStock> {
  const { timeZone } = await loadHours(db);
  const dayIn = (days: number) => dayOf(now + days * DAY, timeZone);
  const today = dayIn(0);
  const then = {
    bars: dayIn(KEEPS_SHORTLY_DAYS),
    deliveries: dayIn(KEEPS_SHORTLY_DAYS),
    fillings: dayIn(FILLING_SHORTLY_DAYS),
  };
  const rows = rowsOf<OnHand>(
    await db.execute(sql`
      select p.id, 'bars' as of, coalesce(r.name, l.name, p.label) as name, p.count as bars, null as declared
      from parcel p join batch b on b.id = p.batch_id
      left join recipe r on r.id = b.recipe_id left join lot l on l.id = b.lot_id
      where ${FREE_BARS}
      union all
      select p.id, 'deliveries', coalesce(i.name, u.name), null, u.best_before::text
      from supply u join parcel p on p.id = u.parcel_id join ingredient i on i.id = u.ingredient_id
      where p.remaining_mg > 0 and not p.on_hold and u.best_before is not null
      union all
      select p.id, 'fillings', p.label, null, null from parcel p
      where p.material = 'filling' and p.remaining_mg > 0 and not p.on_hold`),
  );
  const printed = await printedOn(
    db,
    rows.flatMap((r) => (r.of === 'deliveries' ? [] : [r.id])),
  );
  const dated = rows
    .flatMap(({ id, of, name, bars, declared }) => {
      const bestBefore = declared ?? printed.get(id)?.bestBefore;
      return bestBefore ? [{ of, name, bars, bestBefore }] : [];
    })
    .sort((a, b) => a.bestBefore.localeCompare(b.bestBefore) || a.name.localeCompare(b.name));
  const told = (some: typeof dated): DatedStock['past'] => ({
    bars: some.reduce((sum, s) => sum + (s.bars ?? 0), 0),
    deliveries: some.filter((s) => s.of === 'deliveries').length,
    fillings: some.filter((s) => s.of === 'fillings').length,
    names: [...new Set(some.map((s) => s.name))].slice(0, NAMED),
  });
  return {
    past: told(dated.filter((s) => !keepsUntil(s.bestBefore, today))),
    shortly: told(
      dated.filter((s) => keepsUntil(s.bestBefore, today) && !keepsUntil(s.bestBefore, then[s.of])),
    ),
  };
}
