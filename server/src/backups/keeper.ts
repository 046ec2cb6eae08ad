import { createWriteStream } from 'node:fs';
import { mkdir, open, readdir, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join, resolve, sep } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { BackupsView } from '@wunsch/contract';
import { writeArchive } from '../archive/write.ts';
import { flush } from '../db/files.ts';
import { BACKED_UP } from '../store/snapshots.ts';
import type { Store } from '../store/store.ts';
import { tooMany, type Kept } from './age.ts';
import { checkArchive } from './check.ts';

/** Between two backups, and between two looks whether one is due, ms. */
const EVERY = 24 * 3_600_000;
const LOOK = 10 * 60_000;

/** After one that failed it is tried again so soon, ms. */
const AGAIN = 3_600_000;

const NAME = /^wunsch-(\d{4}-\d{2}-\d{2})T(\d{2})-(\d{2})-(\d{2})\.zip$/;

/** What a keeper works with. */
export interface KeeperOptions {
  /** Folder the backups go to, best on another disk; null where none was named. */
  folder: string | null;
  /** Data directory, which must not hold it; null on a PostgreSQL server. */
  directory: string | null;
  store: () => Store | null;
  now?: () => number;
  /** Opens a finished backup; gives the number of its last entry. */
  check?: (path: string) => Promise<number>;
}

/** Backs the workshop up once a day, opens every backup before it counts, and lets old ones go by their age. */
export class BackupKeeper {
  private timer: NodeJS.Timeout | null = null;
  private running: Promise<void> | null = null;
  private failed: { at: number; why: string } | null = null;
  private readonly now: () => number;
  private readonly check: (path: string) => Promise<number>;

  constructor(private readonly options: KeeperOptions) {
    this.now = options.now ?? (() => Date.now());
    this.check = options.check ?? checkArchive;
  }

  /** Begins to look whether one is due. @throws Error where the folder lies inside the data directory */
  start(): void {
    const { folder, directory } = this.options;
    if (folder === null) return;
    if (directory !== null && `${resolve(folder)}${sep}`.startsWith(`${resolve(directory)}${sep}`))
      throw new Error(
        `WUNSCH_BACKUPS is ${folder}, inside the data directory, and would be lost along with it; name a folder on another disk`,
      );
    this.timer = setInterval(() => void this.lookAfter(), LOOK);
    this.timer.unref();
    void this.lookAfter();
  }

  /** Ends the looking, and waits for one that runs. */
  async stop(): Promise<void> {
    if (this.timer) clearInterval(this.timer);
    await this.running;
  }

  /** How it stands with the backups. */
  async view(): Promise<BackupsView> {
    const { folder } = this.options;
    const kept = await this.kept();
    const last = kept[0];
    return {
      folder,
      running: this.running !== null,
      last: last ? { name: last.name, at: new Date(last.at).toISOString() } : null,
      count: kept.length,
      failed: this.failed && { at: new Date(this.failed.at).toISOString(), why: this.failed.why },
      nextAt: folder === null ? null : new Date(await this.dueAt(last)).toISOString(),
    };
  }

  /** Makes one now, or waits for the one that runs. */
  async make(): Promise<void> {
    this.running ??= this.makeOne().finally(() => (this.running = null));
    await this.running;
  }

  private async dueAt(last: Kept | undefined): Promise<number> {
    const due = last ? last.at + EVERY : this.now();
    return this.failed ? Math.max(due, this.failed.at + AGAIN) : due;
  }

  private async lookAfter(): Promise<void> {
    const store = this.options.store();
    if (this.running || !store || store.writer.lastSeq === 0) return;
    const [last] = await this.kept();
    if ((await this.dueAt(last)) > this.now()) return;
    await this.make();
  }

  /** Backups in the folder, newest first. */
  private async kept(): Promise<Kept[]> {
    const { folder } = this.options;
    if (folder === null) return [];
    const names = await readdir(folder).catch(() => []);
    return names
      .flatMap((name): Kept[] => {
        const match = NAME.exec(name);
        return match ? [{ name, at: Date.parse(`${match[1]}T${match[2]}:${match[3]}:${match[4]}Z`) }] : [];
      })
      .sort((a, b) => b.at - a.at);
  }

  private async makeOne(): Promise<void> {
    const { folder, directory } = this.options;
    const store = this.options.store();
    if (folder === null || !store) return;
    const now = this.now();
    const path = join(folder, `wunsch-${new Date(now).toISOString().slice(0, 19).replaceAll(':', '-')}.zip`);
    const part = `${path}.part`;
    try {
      await mkdir(folder, { recursive: true, mode: 0o700 });
      const still = await store.aside();
      try {
        await writeArchive(still.db, {
          now,
          take: (zip) => pipeline(zip, createWriteStream(part, { mode: 0o600 })),
        });
      } finally {
        await still.close();
      }
      const handle = await open(part, 'r+');
      await handle.sync();
      await handle.close();
      if ((await stat(part)).size === 0) throw new Error('the backup came out empty');
      await this.check(part);
      await rename(part, path);
      await flush(folder);
      if (directory !== null) await writeFile(join(directory, BACKED_UP), `${path}\n`, { mode: 0o600 });
      this.failed = null;
      for (const { name } of tooMany(await this.kept(), now)) await rm(join(folder, name), { force: true });
    } catch (error) {
      await rm(part, { force: true }).catch(() => undefined);
      this.failed = { at: now, why: error instanceof Error ? error.message : String(error) };
    }
  }
}
