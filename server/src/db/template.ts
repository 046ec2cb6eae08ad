import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { mkdir, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { migrationsFolder, openPglite } from './database.ts';
import { copyTree } from './files.ts';
import { dropUnused, MADE, startPglite } from './pglite.ts';

/** What is prepared: a database with nothing in it, and one that has our tables, empty. */
type Kind = 'bare' | 'template';

const pglite = () => createRequire(import.meta.url).resolve('@electric-sql/pglite');

/** Where prepared empty databases are kept: beside the installed packages, or where WUNSCH_CACHE says. */
function cacheFolder(): string {
  if (process.env.WUNSCH_CACHE) return process.env.WUNSCH_CACHE;
  const modules = pglite().slice(0, pglite().lastIndexOf('node_modules') + 'node_modules'.length);
  return join(modules, '.cache', 'wunsch');
}

/** Another one for each way of making it. */
function fingerprintOf(kind: Kind): string {
  const hash = createHash('sha256').update(MADE);
  hash.update(readFileSync(join(dirname(pglite()), '..', 'package.json')));
  const folder = migrationsFolder();
  if (kind === 'template')
    for (const name of readdirSync(folder)
      .filter((n) => n.endsWith('.sql'))
      .sort())
      hash.update(name).update(readFileSync(join(folder, name)));
  return hash.digest('hex').slice(0, 16);
}

/** Makes what stands at a path unless it is there; of two processes that do so at once either result is as good. */
async function madeOnce(path: string, make: (part: string) => Promise<void>): Promise<string> {
  if (existsSync(path)) return path;
  const part = `${path}.${process.pid}.part`;
  await mkdir(dirname(path), { recursive: true });
  await rm(part, { recursive: true, force: true });
  await make(part);
  try {
    await rename(part, path);
  } catch (error) {
    await rm(part, { recursive: true, force: true });
    if (!existsSync(path)) throw error;
  }
  return path;
}

async function initialise(part: string): Promise<void> {
  const client = await startPglite(part);
  await dropUnused(client);
  await client.exec('checkpoint');
  await client.close();
}

async function makeTables(part: string): Promise<void> {
  await copyTree(await directoryOf('bare'), part, { flush: false });
  const { client } = await openPglite(part);
  await client.exec('vacuum analyze');
  await client.exec('checkpoint');
  await client.close();
}

const directoryOf = (kind: Kind): Promise<string> =>
  madeOnce(join(cacheFolder(), `${kind}-${fingerprintOf(kind)}`), kind === 'bare' ? initialise : makeTables);

/**
 * The directory of an initialised, migrated and empty PGlite database, made once and then copied, since
 * initialising one in WebAssembly takes many seconds.
 */
export const templateDirectory = (): Promise<string> => directoryOf('template');

/** A prepared database as one archive, for a store that lives in memory only; `bare` knows none of our tables. */
export async function emptyArchive(kind: Kind): Promise<Blob> {
  const directory = await directoryOf(kind);
  const path = await madeOnce(`${directory}.tar`, async (part) => {
    // What is prepared is never opened again: that would leave traces of a running server in it.
    await copyTree(directory, `${part}.pg`, { flush: false });
    const client = await startPglite(`${part}.pg`);
    const archive = await client.dumpDataDir('none');
    await client.close();
    await writeFile(part, Buffer.from(await archive.arrayBuffer()));
    await rm(`${part}.pg`, { recursive: true, force: true });
  });
  return new Blob([await readFile(path)]);
}
