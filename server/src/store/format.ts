import { existsSync } from 'node:fs';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { flush } from '../db/files.ts';

/** Shape of a data directory: 1 had no format file and unchained journals; 2 chains the lines of the journal. */
export const FORMAT = 2;

/** A data directory or database that a newer release has written. */
export class NewerDataError extends Error {
  constructor(what: string) {
    super(`${what} was written by a newer release of Wunsch; install that release, nothing has been changed`);
    this.name = 'NewerDataError';
  }
}

/** @throws NewerDataError where a newer release has been at work in the directory */
export async function requireKnownFormat(directory: string): Promise<void> {
  const path = join(directory, 'format.json');
  if (!existsSync(path)) return;
  const { format } = JSON.parse(await readFile(path, 'utf8')) as { format: number };
  if (format > FORMAT) throw new NewerDataError(`the data directory ${directory}`);
}

/** Notes the shape of a data directory. */
export async function noteFormat(directory: string): Promise<void> {
  const path = join(directory, 'format.json');
  await writeFile(path, `${JSON.stringify({ format: FORMAT })}\n`, { mode: 0o600 });
  await flush(path);
}
