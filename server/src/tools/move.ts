import { sql } from 'drizzle-orm';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { lastSeqOf } from '../commands/group.ts';
import type { Db } from '../db/database.ts';
import { openEmbedded } from '../store/embedded.ts';
import { fillDirectory, type Filled } from '../store/fill.ts';
import { openServer } from '../store/server.ts';
import type { Store } from '../store/store.ts';
import { copyTables } from './copyTables.ts';

const isUrl = (place: string) => /^postgres(ql)?:\/\//.test(place);

/** What a move carried over. */
export type Moved = Filled;

/**
 * Copies a workshop from a data directory to a PostgreSQL server, or from there into a new data directory. The source is read
 * and left as it is; the target must be empty.
 *
 * @param from path of a data directory, or `postgres://…`
 * @param to the other one
 * @throws Error that says what is in the way; nothing is then left in a database, or marked whole in a directory
 */
export async function moveWorkshop(from: string, to: string): Promise<Moved> {
  if (isUrl(from) === isUrl(to))
    throw new Error('one of the two must be a data directory and the other an address postgres://…');
  if (isUrl(to)) {
    if (!existsSync(join(from, 'journal')))
      throw new Error(`${from} is not the data directory of a workshop`);
    const source = await openEmbedded({ directory: from });
    try {
      await source.writer.settleStream();
      return await intoServer(source, to);
    } finally {
      await source.close();
    }
  }
  const source = await openServer(from);
  try {
    return await intoDirectory(source.db, to);
  } finally {
    await source.close();
  }
}

async function intoServer(source: Store, url: string): Promise<Moved> {
  const target = await openServer(url);
  try {
    const rows = await copyTables(source.db, target.db);
    return { rows, lastSeq: await lastSeqOf(target.db) };
  } finally {
    await target.close();
  }
}

function intoDirectory(source: Db, directory: string): Promise<Moved> {
  return fillDirectory(directory, (db) =>
    // No entry is made on the server while it is read.
    source.transaction(async (held) => {
      await held.execute(sql`select pg_advisory_xact_lock(724012)`);
      return copyTables(held as unknown as Db, db);
    }),
  );
}
