import { constants } from 'node:fs';
import { cp, open, readdir, rm, rename } from 'node:fs/promises';
import { dirname, join } from 'node:path';

/** Flushes a file or directory entry to the disk. */
export async function flush(path: string): Promise<void> {
  const handle = await open(path, 'r');
  try {
    await handle.sync();
  } finally {
    await handle.close();
  }
}

/** Flushes every file below a directory, and the directories themselves. */
export async function flushTree(directory: string): Promise<void> {
  const entries = await readdir(directory, { withFileTypes: true });
  for (const entry of entries) {
    const path = join(directory, entry.name);
    if (entry.isDirectory()) await flushTree(path);
    else if (entry.isFile()) await flush(path);
  }
  await flush(directory);
}

/** Copies a directory so that the target either is complete and on the disk, or is not there. */
export async function copyTree(from: string, to: string, options: { flush: boolean }): Promise<void> {
  const part = `${to}.part`;
  await rm(part, { recursive: true, force: true });
  await cp(from, part, { recursive: true, mode: constants.COPYFILE_FICLONE });
  if (options.flush) await flushTree(part);
  await rm(to, { recursive: true, force: true });
  await rename(part, to);
  if (options.flush) await flush(dirname(to));
}
