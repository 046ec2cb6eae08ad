import {
  closeSync,
  fsyncSync,
  openSync,
  readFileSync,
  renameSync,
  statSync,
  unlinkSync,
  writeSync,
} from 'node:fs';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';

/** Held while this process has the data directory. */
export interface DirectoryLock {
  release(): void;
}

/** Thrown when another process has the directory. */
export class DirectoryLockedError extends Error {
  constructor(directory: string, holder: string) {
    super(
      `the data directory ${directory} is in use by process ${holder}; stop it first, or set WUNSCH_DATA to another directory`,
    );
    this.name = 'DirectoryLockedError';
  }
}

/** Ticks since boot at which a process began, so that a reused pid is not mistaken for the holder; '' where the system does not tell. */
function startOf(pid: number): string {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    return stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19] ?? '';
  } catch {
    return '';
  }
}

function isAlive(pid: number, start: string): boolean {
  try {
    process.kill(pid, 0);
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
  const now = startOf(pid);
  return start === '' || now === '' || now === start;
}

/** What tells a directory from a copy of it, into which the lock file came along. */
function identityOf(directory: string): string {
  const { dev, ino } = statSync(directory);
  return `${dev}:${ino}`;
}

/**
 * Takes the exclusive lock of a data directory, so that no two processes ever open the same PGlite files.
 * A lock whose process has ended, or that was copied here from another directory, is taken over.
 *
 * @throws DirectoryLockedError in one clear line while another process lives
 */
export async function lockDirectory(directory: string): Promise<DirectoryLock> {
  const path = join(directory, 'lock');
  const mine = `${process.pid} ${startOf(process.pid)} ${identityOf(directory)}`;
  for (let attempt = 0; attempt < 5; attempt += 1) {
    try {
      const handle = openSync(path, 'wx', 0o600);
      writeSync(handle, mine);
      fsyncSync(handle);
      closeSync(handle);
      return {
        release: () => {
          try {
            if (readFileSync(path, 'utf8') === mine) unlinkSync(path);
          } catch {
            // Already gone: nothing to give back.
          }
        },
      };
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
    }
    const held = readFileOrEmpty(path);
    const [pid = '', start = '', of = ''] = held.split(' ');
    const isCopy = of !== '' && of !== identityOf(directory);
    if (pid !== '' && !isCopy && isAlive(Number(pid), start)) throw new DirectoryLockedError(directory, pid);
    if (pid === '') {
      // Just being written, or left empty by a power cut.
      await wait(100);
      if (readFileOrEmpty(path) !== '') continue;
    }
    try {
      // Moving it away succeeds for one taker only; the next round creates the lock afresh.
      renameSync(path, `${path}.stale-${process.pid}`);
      unlinkSync(`${path}.stale-${process.pid}`);
    } catch {
      await wait(20);
    }
  }
  throw new DirectoryLockedError(directory, 'that is just starting');
}

function readFileOrEmpty(path: string): string {
  try {
    return readFileSync(path, 'utf8');
  } catch {
    return '';
  }
}
