import { createWriteStream, existsSync } from 'node:fs';
import { mkdtemp, open, rename, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { flush } from '../db/files.ts';
import { openEmbedded } from '../store/embedded.ts';
import { fillDirectory } from '../store/fill.ts';
import { openServer } from '../store/server.ts';
import { backUp, restore } from '../tools/backup.ts';
import type { Manifest } from './manifest.ts';
import { readArchive } from './read.ts';
import { writeArchive } from './write.ts';

const isUrl = (place: string) => /^postgres(ql)?:\/\//.test(place);
const rowsIn = (manifest: Manifest) => manifest.tables.reduce((n, t) => n + t.rows, 0);

/**
 * Writes the archive of a workshop, at work or not, to a file.
 *
 * @param place path of its data directory, or `postgres://…`
 * @param file a zip that is not there yet
 * @throws Error that says what is in the way; an unfinished file is taken away
 */
export async function archiveOf(place: string, file: string, now = Date.now()): Promise<Manifest> {
  if (existsSync(file)) throw new Error(`${file} is there already; name another file`);
  const folder = await mkdtemp(join(tmpdir(), 'wunsch-archive-'));
  const part = `${file}.part`;
  try {
    // A data directory may be in use: a copy of it is read.
    const copy = join(folder, 'copy');
    if (!isUrl(place)) await restore((await backUp(place, folder, { note: false })).path, copy);
    const store = isUrl(place) ? await openServer(place) : await openEmbedded({ directory: copy });
    try {
      const manifest = await writeArchive(store.db, {
        now,
        take: (zip) => pipeline(zip, createWriteStream(part, { mode: 0o600 })),
      });
      const handle = await open(part, 'r+');
      await handle.sync();
      await handle.close();
      await rename(part, file);
      await flush(dirname(file));
      return manifest;
    } finally {
      await store.close();
    }
  } finally {
    await rm(part, { force: true });
    await rm(folder, { recursive: true, force: true });
  }
}

/**
 * Puts an archive into an empty place.
 *
 * @param place path of a new data directory, or the address of an empty database `postgres://…`
 * @throws Error that says what is the matter; the place is then as empty as before
 */
export async function restoreArchive(file: string, place: string): Promise<Manifest> {
  if (isUrl(place)) {
    const store = await openServer(place);
    try {
      return await readArchive(file, store.db);
    } finally {
      await store.close();
    }
  }
  const manifests: Manifest[] = [];
  await fillDirectory(place, async (db) => {
    const manifest = await readArchive(file, db);
    manifests.push(manifest);
    return rowsIn(manifest);
  });
  return manifests[0]!;
}
