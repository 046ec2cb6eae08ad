import { existsSync } from 'node:fs';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { flush } from '../db/files.ts';
import type { JournalHole } from '../journal/journal.ts';

const NAME = 'begins.json';

/**
 * Notes that a directory's journal begins after an entry: what came before was made on a PostgreSQL server and lies in the
 * store and its snapshots only.
 */
export async function noteBeginning(directory: string, after: number): Promise<void> {
  const path = join(directory, NAME);
  await writeFile(path, `${JSON.stringify({ after })}\n`, { mode: 0o600 });
  await flush(path);
}

/** Number of the last entry before a directory's journal; 0 where it has them all. */
export async function beginningOf(directory: string): Promise<number> {
  const path = join(directory, NAME);
  if (!existsSync(path)) return 0;
  return (JSON.parse(await readFile(path, 'utf8')) as { after: number }).after;
}

/** Holes of a journal without what lies before its beginning. */
export function holesAfter(after: number, holes: readonly JournalHole[]): JournalHole[] {
  return holes.filter((h) => h.to > after).map((h) => ({ ...h, from: Math.max(h.from, after + 1) }));
}

/** @throws Error where no whole store is left that has the entries from before the journal's beginning */
export function requireBeginning(after: number, applied: number): void {
  if (applied >= after) return;
  throw new Error(
    `entries 1 to ${after} were made before this directory's journal begins, and neither the store nor a snapshot is whole; put a backup back`,
  );
}
