import { PGlite } from '@electric-sql/pglite';
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { mkdir, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { migrationsFolder, openPglite } from './database.ts';
import { copyTree } from './files.ts';

/** Where prepared empty databases are kept: beside the installed packages, or where WUNSCH_CACHE says. */
function cacheFolder(): string {
  if (process.env.WUNSCH_CACHE) return process.env.WUNSCH_CACHE;
  const pglite = createRequire(import.meta.url).resolve('@electric-sql/pglite');
  const modules = pglite.slice(0, pglite.lastIndexOf('node_modules') + 'node_modules'.length);
  return join(modules, '.cache', 'wunsch');
}

function fingerprint(): string {
  const hash = createHash('sha256');
  const folder = migrationsFolder();
  for (const name of readdirSync(folder)
    .filter((n) => n.endsWith('.sql'))
    .sort())
    hash.update(name).update(readFileSync(join(folder, name)));
  const pglite = createRequire(import.meta.url).resolve('@electric-sql/pglite');
  hash.update(readFileSync(join(dirname(pglite), '..', 'package.json')));
  return hash.digest('hex').slice(0, 16);
}

/**
 * The directory of an initialised, migrated and empty PGlite database, made once and then copied, since
 * initialising one in WebAssembly takes many seconds.
 */
export async function templateDirectory(): Promise<string> {
  const path = join(cacheFolder(), `template-${fingerprint()}`);
  if (existsSync(path)) return path;
  const part = `${path}.${process.pid}.part`;
  await mkdir(dirname(path), { recursive: true });
  await rm(part, { recursive: true, force: true });
  const first = await PGlite.create(part);
  await first.close();
  const { client } = await openPglite(part);
  await client.exec('vacuum analyze');
  await client.exec('checkpoint');
  await client.close();
  try {
    await rename(part, path);
  } catch (error) {
    // Another process was quicker; its template is as good.
    await rm(part, { recursive: true, force: true });
    if (!existsSync(path)) throw error;
  }
  return path;
}

/** The same empty database as one archive, for a store that lives in memory only. */
export async function templateArchive(): Promise<Blob> {
  const directory = await templateDirectory();
  const path = `${directory}.tar`;
  if (!existsSync(path)) {
    const part = `${path}.${process.pid}.part`;
    // The template itself is never opened again: that would leave traces of a running server in it.
    await copyTree(directory, `${part}.pg`, { flush: false });
    const client = await PGlite.create(`${part}.pg`);
    const archive = await client.dumpDataDir('none');
    await client.close();
    await writeFile(part, Buffer.from(await archive.arrayBuffer()));
    await rename(part, path);
    await rm(`${part}.pg`, { recursive: true, force: true });
  }
  return new Blob([await readFile(path)]);
}
