import { constants } from 'node:fs';
import { copyFile, mkdir, open, readdir, rm, rename } from 'node:fs/promises';
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
  await Promise.all(
    entries.map((entry) => {
      const path = join(directory, entry.name);
      if (entry.isDirectory()) return flushTree(path);
      return entry.isFile() ? flush(path) : undefined;
    }),
  );
  await flush(directory);
}

/** Copies a directory so that the target either is complete and on the disk, or is not there. */
export async function copyTree(from: string, to: string, options: { flush: boolean }): Promise<void> {
  const part = `${to}.part`;
  await rm(part, { recursive: true, force: true });
  await copyFiles(from, part);
  if (options.flush) await flushTree(part);
  await rm(to, { recursive: true, force: true });
  await rename(part, to);
  if (options.flush) await flush(dirname(to));
}

/** Files of a folder side by side: several times as fast for a database's thousand small files as one after the other. */
async function copyFiles(from: string, to: string): Promise<void> {
  await mkdir(to, { recursive: true });
  const entries = await readdir(from, { withFileTypes: true });
  await Promise.all(
    entries.map((entry) => {
      const [source, target] = [join(from, entry.name), join(to, entry.name)];
      return entry.isDirectory()
        ? copyFiles(source, target)
        : copyFile(source, target, constants.COPYFILE_FICLONE);
    }),
  );
}
