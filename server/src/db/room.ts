import { statfs } from 'node:fs/promises';
import { Problem } from '../http/problem.ts';

/** Least free room on the disk before entries are refused, bytes: the database needs some to finish what it has begun. */
export const LEAST_FREE = 48 * 1024 * 1024;

/** How long an answer of the disk is good for, ms. */
const GOOD_FOR = 1000;

/** Watches the room on the disk of a data directory. */
export class DiskRoom {
  private askedAt = 0;
  private free = Infinity;

  constructor(
    private readonly directory: string,
    private readonly least = LEAST_FREE,
    private readonly ask: (directory: string) => Promise<number> = freeBytes,
  ) {}

  /** Free bytes, not older than a second. */
  async freeBytes(): Promise<number> {
    if (Date.now() - this.askedAt > GOOD_FOR) {
      this.free = await this.ask(this.directory).catch(() => Infinity);
      this.askedAt = Date.now();
    }
    return this.free;
  }

  /** Whether there is room enough for entries. */
  async isEnough(): Promise<boolean> {
    return (await this.freeBytes()) >= this.least;
  }

  /** @throws Problem 507 `disk-full` while there is less room than is needed to end an entry whole */
  async require(): Promise<void> {
    const free = await this.freeBytes();
    if (free >= this.least) return;
    const mb = (bytes: number) => `${Math.floor(bytes / 1024 / 1024)} MB`;
    throw new Problem({
      status: 507,
      code: 'disk-full',
      detail: `only ${mb(free)} are free on the disk, ${mb(this.least)} are needed: nothing was entered; make room and enter it again`,
      params: { freeBytes: free, neededBytes: this.least },
    });
  }
}

async function freeBytes(directory: string): Promise<number> {
  const { bavail, bsize } = await statfs(directory);
  return bavail * bsize;
}
