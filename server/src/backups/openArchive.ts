import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readArchive } from '../archive/read.ts';
import { openPglite } from '../db/database.ts';
import { copyTree } from '../db/files.ts';
import { templateDirectory } from '../db/template.ts';

/**
 * Opens an archive as a workshop would be restored from it, into a database that is thrown away.
 *
 * @returns number of the last entry in it
 * @throws Error that says what is the matter with it
 */
export default async function openArchive({ path }: { path: string }): Promise<number> {
  const folder = await mkdtemp(join(tmpdir(), 'wunsch-check-'));
  try {
    await copyTree(await templateDirectory(), join(folder, 'pg'), { flush: false });
    const { db, client } = await openPglite(join(folder, 'pg'));
    try {
      return (await readArchive(path, db)).lastSeq;
    } finally {
      await client.close();
    }
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
