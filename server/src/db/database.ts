import { PGlite } from '@electric-sql/pglite';
import type { Logger } from 'drizzle-orm';
import type { PgDatabase, PgQueryResultHKT } from 'drizzle-orm/pg-core';
import { drizzle as drizzlePostgres } from 'drizzle-orm/node-postgres';
import { migrate as migratePostgres } from 'drizzle-orm/node-postgres/migrator';
import { drizzle as drizzlePglite } from 'drizzle-orm/pglite';
import { migrate as migratePglite } from 'drizzle-orm/pglite/migrator';
import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import pg from 'pg';

/** A database or a transaction on it; the same for both drivers. */
export type Db = PgDatabase<PgQueryResultHKT, Record<string, never>>;

/** Where the migrations lie, from the sources or from the built server. */
export function migrationsFolder(): string {
  const places = ['./migrations', '../src/db/migrations', '../../server/src/db/migrations'];
  const found = places.map((p) => fileURLToPath(new URL(p, import.meta.url))).find((p) => existsSync(p));
  if (!found) throw new Error('the migrations folder server/src/db/migrations is missing');
  return found;
}

/** Opens a PGlite directory and brings its schema up to date. */
export async function openPglite(directory: string, logger?: Logger): Promise<{ db: Db; client: PGlite }> {
  const client = await PGlite.create(directory, { relaxedDurability: true });
  const db = drizzlePglite(client, { logger });
  await migratePglite(db, { migrationsFolder: migrationsFolder() });
  return { db: db as unknown as Db, client };
}

/** Opens a PostgreSQL server and brings its schema up to date; concurrent openers wait for each other. */
export async function openPostgres(url: string, logger?: Logger): Promise<{ db: Db; pool: pg.Pool }> {
  const pool = new pg.Pool({ connectionString: url, max: 10 });
  const guard = await pool.connect();
  try {
    await guard.query('select pg_advisory_lock(724011)');
    await migratePostgres(drizzlePostgres(guard), { migrationsFolder: migrationsFolder() });
  } finally {
    await guard.query('select pg_advisory_unlock(724011)').catch(() => undefined);
    guard.release();
  }
  return { db: drizzlePostgres(pool, { logger }) as unknown as Db, pool };
}
