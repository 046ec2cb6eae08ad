import { getTableName, is, sql } from 'drizzle-orm';
import { PgTable } from 'drizzle-orm/pg-core';
import type { Db } from '../db/database.ts';
import * as schema from '../db/schema/index.ts';

/** Rows carried over at a time; runs of readings are large. */
const PART = 100;

const tables = Object.values(schema as Record<string, unknown>).filter((t): t is PgTable => is(t, PgTable));

async function countOf(db: Db, table: PgTable): Promise<number> {
  const [row] = await db.select({ n: sql<string>`count(*)` }).from(table);
  return Number(row!.n);
}

/**
 * Copies every row of every table into an empty database of the same shape, in one transaction on either side.
 *
 * @returns rows copied
 * @throws Error where the target holds anything, or where a table did not arrive whole; nothing is then kept
 */
export function copyTables(from: Db, to: Db): Promise<number> {
  return from.transaction(
    async (source) =>
      to.transaction(async (target) => {
        let sum = 0;
        for (const table of tables)
          if ((await countOf(target as unknown as Db, table)) > 0)
            throw new Error('there is a workshop in the target already; it must be empty');
        for (const table of tables) {
          const wanted = await countOf(source as unknown as Db, table);
          for (let done = 0; done < wanted; done += PART) {
            const rows = await source
              .select()
              .from(table)
              .orderBy(sql`ctid`)
              .limit(PART)
              .offset(done);
            await target.insert(table).values(rows);
          }
          const arrived = await countOf(target as unknown as Db, table);
          if (arrived !== wanted)
            throw new Error(
              `${arrived} of ${wanted} rows of ${getTableName(table)} arrived; nothing was kept`,
            );
          sum += wanted;
        }
        return sum;
      }),
    { isolationLevel: 'repeatable read' },
  );
}
