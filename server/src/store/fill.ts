import { existsSync } from 'node:fs';
import { mkdir, readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { lastSeqOf } from '../commands/group.ts';
import { openPglite, type Db } from '../db/database.ts';
import { copyTree } from '../db/files.ts';
import { templateDirectory } from '../db/template.ts';
import { noteBeginning } from './beginning.ts';
import { openEmbedded } from './embedded.ts';
import { noteFormat } from './format.ts';
import { markClean } from './snapshots.ts';

/** What a database was filled with from elsewhere. */
export interface Filled {
  rows: number;
  /** Number of the last entry. */
  lastSeq: number;
}

/** What lies in a data directory and holds no entry. */
const NO_ENTRIES = /^(certificate|lock)$/;

/**
 * Makes a data directory out of rows that come from elsewhere. Its journal begins after them, so they are snapshotted at once.
 *
 * @param fill puts the rows into the empty database it is given, and says how many
 * @throws Error where there is anything in the directory; what fails while filling leaves it as empty as it was
 */
export async function fillDirectory(directory: string, fill: (db: Db) => Promise<number>): Promise<Filled> {
  if (existsSync(directory) && (await readdir(directory)).some((name) => !NO_ENTRIES.test(name)))
    throw new Error(`${directory} is not empty; name a new folder`);
  const path = join(directory, 'store');
  await mkdir(path, { recursive: true, mode: 0o700 });
  await copyTree(await templateDirectory(), join(path, 'pg'), { flush: false });
  const { db, client } = await openPglite(join(path, 'pg'));
  let filled: Filled;
  try {
    const rows = await fill(db);
    filled = { rows, lastSeq: await lastSeqOf(db) };
    await client.close();
  } catch (error) {
    await client.close().catch(() => undefined);
    await rm(path, { recursive: true, force: true });
    throw error;
  }
  await noteBeginning(directory, filled.lastSeq);
  await noteFormat(directory);
  await markClean(path, filled.lastSeq);
  // A first snapshot, since the journal cannot bring back what came before it.
  const opened = await openEmbedded({ directory, snapshotAfter: 0 });
  await opened.snapshot();
  await opened.close();
  return filled;
}

/**
 * Takes the store and journal of a workshop nobody has set up out of its closed data directory, so that it can be filled.
 *
 * @throws Error where it holds an entry; nothing is then touched
 */
export async function clearFresh(directory: string): Promise<void> {
  const store = await openEmbedded({ directory });
  const { lastSeq } = store.writer;
  await store.close();
  if (lastSeq > 0) throw new Error(`${directory} holds a workshop; nothing was changed`);
  for (const name of await readdir(directory))
    if (!NO_ENTRIES.test(name)) await rm(join(directory, name), { recursive: true, force: true });
}
