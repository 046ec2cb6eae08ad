import { sql } from 'drizzle-orm';
import type { Db } from '../db/database.ts';
import { rowsOf, uuids } from '../db/raw.ts';

/** What the moulding behind bars printed on them, through boxes, parts and returns. */
export async function printedOn(
  db: Db,
  parcelIds: readonly string[],
): Promise<Map<string, { bestBefore: string | null; barCode: string | null }>> {
  if (parcelIds.length === 0) return new Map();
  const rows = rowsOf<{ id: string; bestBefore: string | null; barCode: string | null }>(
    await db.execute(sql`
      with recursive asked as (select id, step_id from parcel where id = any(${uuids(parcelIds)})),
      -- By the step they came of: what of one step says the same.
      behind(root, step_id) as (
        select distinct step_id, step_id from asked
        union
        select b.root, q.step_id from behind b
          join step s on s.id = b.step_id and s.kind in ('wrap', 'part', 'leave')
          join movement m on m.step_id = s.id and m.direction = 'in' and m.replaced_by is null and not m.voided
          join parcel q on q.id = m.parcel_id and q.material in ('bars', 'blocks', 'filling')),
      printed as (
        select b.root, min(s.details ->> 'bestBefore') filter (where s.details ->> 'bestBefore' ~ '^\\d{4}-\\d\\d-\\d\\d$') as best,
          min(s.details ->> 'barCode') as code
        from behind b join step s on s.id = b.step_id and s.kind in ('mould', 'prepare') group by b.root)
      select a.id, p.best as "bestBefore", p.code as "barCode" from asked a join printed p on p.root = a.step_id`),
  );
  return new Map(rows.map(({ id, ...r }) => [id, r]));
}
