import { existsSync } from 'node:fs';
import { copyFile, mkdir, readdir, rename, rm, writeFile } from 'node:fs/promises';
import { join, resolve, sep } from 'node:path';
import { copyTree, flush } from '../db/files.ts';
import { Journal } from '../journal/journal.ts';
import { beginningOf, holesAfter } from '../store/beginning.ts';
import { openEmbedded } from '../store/embedded.ts';
import { requireKnownFormat } from '../store/format.ts';
import { BACKED_UP, snapshotsOf, verifySnapshot } from '../store/snapshots.ts';

/** Small files that belong to a data directory. */
const NOTES = ['format.json', 'begins.json', 'accepted-gaps.json'];

/** A finished backup. */
export interface Backup {
  path: string;
  /** Number of the last entry it has. */
  lastSeq: number;
}

function requireWorkshop(directory: string): void {
  if (!existsSync(join(directory, 'journal')))
    throw new Error(`${directory} is not the data directory of a workshop`);
}

/**
 * Copies a workshop, at work or not, into a new folder below `into`: its journal, and the newest snapshot so that it opens
 * quickly. The copy is read again before it counts.
 *
 * @throws Error that says what is in the way; an unfinished copy is taken away
 */
export async function backUp(
  directory: string,
  into: string,
  {
    now = new Date(),
    note = true,
  }: {
    now?: Date;
    /** Whether it counts as the workshop’s last backup. */
    note?: boolean;
  } = {},
): Promise<Backup> {
  requireWorkshop(directory);
  if (`${resolve(into)}${sep}`.startsWith(`${resolve(directory)}${sep}`))
    throw new Error(
      'a backup inside the data directory is lost along with it; name a folder on another disk',
    );
  await requireKnownFormat(directory);
  const name = `wunsch-${now.toISOString().slice(0, 19).replaceAll(':', '-')}`;
  const path = join(into, name);
  const part = `${path}.part`;
  if (existsSync(path)) throw new Error(`${path} is there already`);
  await rm(part, { recursive: true, force: true });
  await mkdir(part, { recursive: true, mode: 0o700 });
  try {
    for (const note of NOTES)
      if (existsSync(join(directory, note))) await copyFile(join(directory, note), join(part, note));
    await copyNewestSnapshot(directory, part);
    // The journal comes last: it then reaches at least as far as the snapshot.
    await copyTree(join(directory, 'journal'), join(part, 'journal'), { flush: true });
    const lastSeq = await checkedSeq(part);
    await rename(part, path);
    await flush(into);
    if (note) await writeFile(join(directory, BACKED_UP), `${path}\n`, { mode: 0o600 });
    return { path, lastSeq };
  } catch (error) {
    await rm(part, { recursive: true, force: true });
    throw error;
  }
}

async function copyNewestSnapshot(directory: string, part: string): Promise<void> {
  for (const snapshot of await snapshotsOf(directory)) {
    const to = join(part, 'snapshots', String(snapshot.seq));
    try {
      await copyTree(snapshot.path, to, { flush: true });
      await verifySnapshot({ path: to, seq: snapshot.seq });
      return;
    } catch {
      // A newer one has taken its place meanwhile, or it is damaged: the next one, or none, will do.
      await rm(to, { recursive: true, force: true });
    }
  }
  const after = await beginningOf(directory);
  if (after > 0) throw new Error(`no whole snapshot holds the entries 1 to ${after}; nothing was copied`);
}

async function checkedSeq(directory: string): Promise<number> {
  const journal = await Journal.open(join(directory, 'journal'));
  const { lastSeq } = journal;
  const holes = holesAfter(await beginningOf(directory), journal.holes);
  await journal.close();
  if (holes.length > 0 && !existsSync(join(directory, 'accepted-gaps.json')))
    throw new Error(
      `entries ${holes.map((h) => `${h.from} to ${h.to}`).join(', ')} are missing from the journal that was copied`,
    );
  return lastSeq;
}

/**
 * Puts a backup back as a data directory and opens it once, so that what it holds is known to be whole.
 *
 * @throws Error that says what is in the way; a directory with anything in it is never touched
 */
export async function restore(
  backup: string,
  directory: string,
): Promise<{ lastSeq: number; setAside: number }> {
  requireWorkshop(backup);
  if (existsSync(directory) && (await readdir(directory)).length > 0)
    throw new Error(`${directory} is not empty; move it away first, nothing was changed`);
  await requireKnownFormat(backup);
  await copyTree(backup, directory, { flush: true });
  const store = await openEmbedded({ directory });
  const found = { lastSeq: store.writer.lastSeq, setAside: store.opened.setAside };
  await store.close();
  return found;
}
