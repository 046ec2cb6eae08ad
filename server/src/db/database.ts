import type { PGlite } from '@electric-sql/pglite';
import type { Logger } from 'drizzle-orm';
import type { PgDatabase, PgQueryResultHKT } from 'drizzle-orm/pg-core';
import { drizzle as drizzlePglite } from 'drizzle-orm/pglite';
import { migrate as migratePglite } from 'drizzle-orm/pglite/migrator';
import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import type pg from 'pg';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { sql } from 'drizzle-orm';
import { NewerDataError } from '../store/format.ts';
import { startPglite } from './pglite.ts';
import { withPreparedStatements, type Ahead } from './prepared.ts';

/** A database or a transaction on it; the same for both drivers. */
export type Db = PgDatabase<PgQueryResultHKT, Record<string, never>>;

/** Where the migrations lie, from the sources or from the built server. */
export function migrationsFolder(): string {
  const places = ['./migrations', '../src/db/migrations', '../../server/src/db/migrations'];
  const found = places.map((p) => fileURLToPath(new URL(p, import.meta.url))).find((p) => existsSync(p));
  if (!found) throw new Error('the migrations folder server/src/db/migrations is missing');
  return found;
}

/** Names of the changes of the database’s shape, in order; the last is what this release writes. */
export function shapes(): string[] {
  const journal = JSON.parse(readFileSync(join(migrationsFolder(), 'meta/_journal.json'), 'utf8')) as {
    entries: { tag: string }[];
  };
  return journal.entries.map((e) => e.tag);
}

async function migrationsIn(db: Db): Promise<number> {
  const result = await db.execute(sql`select count(*) as n from drizzle.__drizzle_migrations`);
  return Number((result as unknown as { rows: { n: string }[] }).rows[0]!.n);
}

/** Name of the last change of shape a database has been through. */
export async function shapeOf(db: Db): Promise<string> {
  return shapes()[(await migrationsIn(db)) - 1]!;
}

/** @throws NewerDataError where the database has migrations this release does not know */
async function refuseNewer(db: Db, what: string): Promise<void> {
  if ((await migrationsIn(db)) > shapes().length) throw new NewerDataError(what);
}

/** Opens a PGlite directory and brings its schema up to date. */
export async function openPglite(
  directory: string,
  logger?: Logger,
): Promise<{ db: Db; client: PGlite; ahead: Ahead }> {
  const bare = await startPglite(directory, { relaxedDurability: true });
  try {
    await migratePglite(drizzlePglite(bare), { migrationsFolder: migrationsFolder() });
    const { client, ahead } = withPreparedStatements(bare);
    if (logger) {
      const { run } = ahead;
      ahead.run = (text, values, options) => {
        logger.logQuery(text, values);
        return run(text, values, options);
      };
    }
    const db = drizzlePglite(client, { logger }) as unknown as Db;
    await refuseNewer(db, `the store in ${directory}`);
    return { db, client, ahead };
  } catch (error) {
    await bare.close().catch(() => undefined);
    throw error;
  }
}

/** Opens a PostgreSQL server and brings its schema up to date; concurrent openers wait for each other. */
export async function openPostgres(url: string, logger?: Logger): Promise<{ db: Db; pool: pg.Pool }> {
  // What speaks to a server is read only where there is one: an embedded workshop opens sooner without.
  const [{ default: driver }, { drizzle: drizzlePostgres }, { migrate: migratePostgres }] = await Promise.all(
    [import('pg'), import('drizzle-orm/node-postgres'), import('drizzle-orm/node-postgres/migrator')],
  );
  const pool = new driver.Pool({ connectionString: url, max: 10, connectionTimeoutMillis: 5000 });
  // A connection that is lost while idle is replaced when the next one is needed; it must not end the process.
  pool.on('error', () => undefined);
  pool.on('connect', (client) => {
    // Nor may one that is lost while in use: its query fails, and is answered as that.
    client.on('error', () => undefined);
    // Compiling a question takes seconds that answering it never does: a workshop's tables are small, its questions many-sided.
    client.query('set jit to off').catch(() => undefined);
  });
  const guard = await pool.connect().catch(async (error: unknown) => {
    await pool.end();
    throw error;
  });
  try {
    await guard.query('select pg_advisory_lock(724011)');
    await migratePostgres(drizzlePostgres(guard), { migrationsFolder: migrationsFolder() });
  } finally {
    await guard.query('select pg_advisory_unlock(724011)').catch(() => undefined);
    guard.release();
  }
  const db = drizzlePostgres(pool, { logger }) as unknown as Db;
  await refuseNewer(db, 'the database');
  return { db, pool };
}
