import { PGlite, type PGliteOptions } from '@electric-sql/pglite';
import { memoryOf } from '../settings.ts';

/** Memory in which a database that has no files keeps pages, MB. */
const MEMORY_WITHOUT_FILES = 16;

/** Pieces of the write-ahead log, MB: a new database, and each copy of it, brings half a dozen, whatever is in them. */
const WAL_SEGMENT_MB = 1;

/** What an initialised database looks like here; another word wherever this file makes them differently. */
export const MADE = 'one database, small log';

/**
 * Starts an embedded database.
 *
 * @param directory where its files lie, made where there are none; in memory without it
 */
export function startPglite(directory?: string, options: PGliteOptions = {}): Promise<PGlite> {
  const buffers = directory === undefined ? MEMORY_WITHOUT_FILES : memoryOf(process.env);
  const all: PGliteOptions = {
    startParams: [...PGlite.defaultStartParams, '-c', `shared_buffers=${buffers}MB`],
    initDbStartParams: [`--wal-segsize=${WAL_SEGMENT_MB}`],
    ...options,
  };
  return directory === undefined ? PGlite.create(all) : PGlite.create(directory, all);
}

/** Takes away the databases that come with every new server and that nobody ever opens: half of its files. */
export async function dropUnused(client: PGlite): Promise<void> {
  const { rows } = await client.query<{ name: string }>(
    'select datname as name from pg_database where datname <> current_database()',
  );
  for (const { name } of rows) {
    await client.query('update pg_database set datistemplate = false where datname = $1', [name]);
    await client.exec(`drop database "${name}"`);
  }
}
