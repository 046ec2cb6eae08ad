import { drizzle } from 'drizzle-orm/pglite';
import { migrate } from 'drizzle-orm/pglite/migrator';
import { cp, mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { migrationsFolder, type Db } from '../db/database.ts';
import { startPglite } from '../db/pglite.ts';
import { emptyArchive } from '../db/template.ts';

/** A database in memory in the shape of an older release. */
export interface Stage {
  /** As that release kept it. */
  db: Db;
  /** Brings it up to date, as its own database would have been. */
  upToDate: () => Promise<Db>;
  close: () => Promise<void>;
}

/**
 * Opens an empty database as an older release made it.
 *
 * @param shape name of the last change of shape that release knew
 */
export async function openStage(shape: string): Promise<Stage> {
  const folder = await mkdtemp(join(tmpdir(), 'wunsch-stage-'));
  // Making a new one takes seconds; this one has none of our tables yet.
  const client = await startPglite(undefined, { loadDataDir: await emptyArchive('bare') });
  const db = drizzle(client);
  try {
    await migrate(db, { migrationsFolder: await foldersUpTo(folder, shape) });
  } catch (error) {
    await client.close();
    throw error;
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
  return {
    db: db as unknown as Db,
    upToDate: async () => {
      await migrate(db, { migrationsFolder: migrationsFolder() });
      return db as unknown as Db;
    },
    close: () => client.close(),
  };
}

/** A folder of migrations that ends with one of them. */
async function foldersUpTo(folder: string, shape: string): Promise<string> {
  const from = migrationsFolder();
  const journal = JSON.parse(await readFile(join(from, 'meta/_journal.json'), 'utf8')) as {
    entries: { tag: string }[];
  };
  const last = journal.entries.findIndex((e) => e.tag === shape);
  const entries = journal.entries.slice(0, last + 1);
  await mkdir(join(folder, 'meta'));
  for (const { tag } of entries) await cp(join(from, `${tag}.sql`), join(folder, `${tag}.sql`));
  await writeFile(join(folder, 'meta/_journal.json'), JSON.stringify({ ...journal, entries }));
  return folder;
}
