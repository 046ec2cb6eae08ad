import type { PGlite } from '@electric-sql/pglite';
import { existsSync } from 'node:fs';
import { mkdir, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { crc32 } from 'node:zlib';
import { copyTree, flush, flushTree } from '../db/files.ts';

/** Name of the mark that says a store was closed whole; it holds the number of the last entry. */
export const CLEAN = 'CLEAN';

const SNAPSHOTS_KEPT = 2;
const MANIFEST = 'files.json';

/** A copy of the store after an entry. */
export interface Snapshot {
  path: string;
  seq: number;
}

type Manifest = Record<string, [size: number, crc: number]>;

async function manifestOf(folder: string): Promise<Manifest> {
  const names = await readdir(folder, { recursive: true, encoding: 'utf8' });
  const manifest: Manifest = {};
  for (const name of names.sort()) {
    const path = join(folder, name);
    if (!(await stat(path)).isFile()) continue;
    const bytes = await readFile(path);
    manifest[name] = [bytes.length, crc32(bytes)];
  }
  return manifest;
}

/** Snapshots of a data directory that were finished, newest first. */
export async function snapshotsOf(directory: string): Promise<Snapshot[]> {
  const folder = join(directory, 'snapshots');
  if (!existsSync(folder)) return [];
  return (await readdir(folder))
    .filter((n) => /^\d+$/.test(n) && existsSync(join(folder, n, CLEAN)))
    .map((n) => ({ path: join(folder, n), seq: Number(n) }))
    .sort((a, b) => b.seq - a.seq);
}

/** Name of the note, in a data directory, of when it was last backed up. */
export const BACKED_UP = 'backed-up';

/** When a data directory was last copied by itself, and by a backup; instants, or null for never. */
export async function copiesOf(
  directory: string,
): Promise<{ lastSnapshotAt: string | null; lastBackupAt: string | null }> {
  const [newest] = await snapshotsOf(directory);
  const at = (path: string) =>
    stat(path).then(
      ({ mtime }) => mtime.toISOString(),
      () => null,
    );
  return {
    lastSnapshotAt: newest ? await at(join(newest.path, CLEAN)) : null,
    lastBackupAt: await at(join(directory, BACKED_UP)),
  };
}

/** @throws Error naming the first file of a snapshot that is not as it was written */
export async function verifySnapshot({ path }: Snapshot): Promise<void> {
  const kept = join(path, MANIFEST);
  // Snapshots of the first release have none.
  if (!existsSync(kept)) return;
  const wanted = JSON.parse(await readFile(kept, 'utf8')) as Manifest;
  const found = await manifestOf(join(path, 'pg'));
  for (const [name, [size, crc]] of Object.entries(wanted)) {
    const there = found[name];
    if (!there) throw new Error(`${name} is missing`);
    if (there[0] !== size || there[1] !== crc) throw new Error(`${name} is damaged`);
  }
}

/** Copies the store after a checkpoint, inside a transaction so that nothing else uses it meanwhile, and flushes the copy. */
export function takeSnapshot(directory: string, path: string, client: PGlite): Promise<number> {
  const folder = join(directory, 'snapshots');
  return client.transaction(async (tx) => {
    await tx.exec('checkpoint');
    const found = await tx.query<{ seq: number }>('select coalesce(max(seq), 0)::int as seq from trail');
    const seq = found.rows[0]!.seq;
    const part = join(folder, `${seq}.new`);
    await rm(part, { recursive: true, force: true });
    await mkdir(part, { recursive: true });
    await copyTree(join(path, 'pg'), join(part, 'pg'), { flush: true });
    await writeFile(join(part, MANIFEST), JSON.stringify(await manifestOf(join(part, 'pg'))));
    await flush(join(part, MANIFEST));
    await writeFile(join(part, CLEAN), String(seq));
    await flush(join(part, CLEAN));
    await rm(join(folder, String(seq)), { recursive: true, force: true });
    await rename(part, join(folder, String(seq)));
    await flush(folder);
    const unfinished = (await readdir(folder)).filter((n) => n.endsWith('.new'));
    for (const name of unfinished) await rm(join(folder, name), { recursive: true, force: true });
    for (const old of (await snapshotsOf(directory)).slice(SNAPSHOTS_KEPT))
      await rm(old.path, { recursive: true, force: true });
    return seq;
  });
}

/** Flushes a closed store and marks it whole. */
export async function markClean(path: string, seq: number): Promise<void> {
  await flushTree(path);
  await writeFile(join(path, CLEAN), String(seq));
  await flush(join(path, CLEAN));
  await flush(path);
}
