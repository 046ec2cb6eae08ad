import { sql } from 'drizzle-orm';
import type { Db } from './database.ts';
import { rowsOf } from './raw.ts';

/** A table is counted anew once it has grown by so much, and by some pages, since the last time. */
const GROWN = 1.3;
const PAGES = 4;

/**
 * Lets the database count anew the tables that have grown, so that it looks up in its indexes what it has learned to be large. A database server
 * does so by itself now and then; an embedded one never does, and keeps to the plans it made while all was empty.
 *
 * @returns names of the tables that were counted
 */
export async function refreshStatistics(db: Db): Promise<string[]> {
  const grown = rowsOf<{ name: string }>(
    await db.execute(sql`
      select c.relname as name from pg_class c join pg_namespace n on n.oid = c.relnamespace
      where n.nspname = 'public' and c.relkind = 'r'
        and pg_relation_size(c.oid) / 8192 > greatest(c.relpages, 0) * ${GROWN}::float8 + ${PAGES}::int
      order by c.relname`),
  ).map((r) => r.name);
  if (grown.length > 0) await db.execute(sql.raw(`analyze ${grown.map((n) => `"${n}"`).join(', ')}`));
  return grown;
}
