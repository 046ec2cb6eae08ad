import type { PGlite } from '@electric-sql/pglite';
import type { Logger } from 'drizzle-orm';
import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { chmod, mkdir, readdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { lastSeqOf } from '../commands/group.ts';
import { handlers } from '../commands/registry.ts';
import { Writer } from '../commands/writer.ts';
import { openPglite, type Db } from '../db/database.ts';
import { copyTree, flush } from '../db/files.ts';
import { lockDirectory } from '../db/lock.ts';
import type { Ahead } from '../db/prepared.ts';
import { DiskRoom } from '../db/room.ts';
import { templateDirectory } from '../db/template.ts';
import { Journal } from '../journal/journal.ts';
import { EventBus } from '../live/bus.ts';
import { RunCache } from '../machines/runs.ts';
import { memoryOf } from '../settings.ts';
import { YieldCache } from '../views/yieldCache.ts';
import { beginningOf, holesAfter, requireBeginning } from './beginning.ts';
import { NewerDataError, noteFormat, requireKnownFormat } from './format.ts';
import { requireWholeJournal } from './holes.ts';
import { CLEAN, copiesOf, markClean, snapshotsOf, takeSnapshot, verifySnapshot } from './snapshots.ts';
import type { Aside, Store } from './store.ts';

/** How to open the embedded store. */
export interface EmbeddedOptions {
  directory: string;
  logger?: Logger;
  /** Entries in the journal since the last snapshot that make a new one worth its time. */
  snapshotAfter?: number;
  onFatal?: (error: unknown) => void;
  /** Go on although stretches of the journal are not there. */
  acceptGaps?: boolean;
  /** Least free room on the disk, bytes. */
  leastFree?: number;
}

const SNAPSHOT_AFTER = 400;
const SNAPSHOT_EVERY = 30_000;
const SNAPSHOT_SOON = 5_000;

/** How the folders of copies to read from begin. */
const ASIDE = 'aside.';

/**
 * Opens the embedded store of a data directory:
 * `lock`, `format.json`, `store/` (PGlite), `journal/` and `snapshots/`.
 *
 * PGlite never flushes to the disk, so a store that was not closed whole is never trusted: it is rebuilt
 * from the newest snapshot that is whole, and the journal, which was flushed before every answer, supplies the rest.
 *
 * @throws DirectoryLockedError while another process has the directory
 * @throws JournalHolesError while stretches of the journal are missing and nobody has decided to go on without them
 * @throws Error where WUNSCH_MEMORY_MB makes no sense; nothing has been touched then
 * @throws NewerDataError where a newer release has written the directory
 */
export async function openEmbedded(options: EmbeddedOptions): Promise<Store> {
  const { directory } = options;
  // A slip in it must not look as if the store were damaged.
  memoryOf(process.env);
  await mkdir(directory, { recursive: true, mode: 0o700 });
  // Password hashes and everything a workshop knows lie in here.
  await chmod(directory, 0o700);
  const lock = await lockDirectory(directory);
  try {
    await requireKnownFormat(directory);
    await clearAsides(directory);
    const journal = await Journal.open(join(directory, 'journal'));
    const path = join(directory, 'store');
    const found = await openBest(directory, path, options.logger);
    const { db, client, ahead, applied } = found;
    const begins = await beginningOf(directory);
    const holes = holesAfter(begins, journal.holes);
    if (applied > Math.max(journal.lastSeq, begins))
      holes.push({
        from: Math.max(journal.lastSeq, begins) + 1,
        to: applied,
        file: '',
        line: 0,
        why: 'missing',
      });
    try {
      requireBeginning(begins, applied);
      await requireWholeJournal({
        db,
        directory: join(directory, 'journal'),
        holes,
        accept: options.acceptGaps ?? false,
      });
    } catch (error) {
      await client.close();
      // The store was whole and has not been touched: the next opening finds it so.
      if (!found.rebuilt) await markClean(path, applied);
      throw error;
    }
    await noteFormat(directory);
    journal.continueAfter(applied);
    const bus = new EventBus();
    const room = new DiskRoom(directory, options.leastFree);
    const writer = new Writer({
      db,
      ahead,
      handlers,
      journal,
      shared: false,
      lastSeq: applied,
      publish: (e) => bus.publish(e),
      onFatal:
        options.onFatal ??
        ((error) => {
          throw error;
        }),
      requireRoom: () => room.require(),
    });
    const replayed = await writer.replay(journal.since(applied));
    const snapshots = snapshotKeeper(directory, path, client, writer, options.snapshotAfter);
    await snapshots.begin();
    // After a crash the next opening is made cheap at once; otherwise it waits for the clock.
    if (found.rebuilt) await snapshots.whenDue();
    return {
      kind: 'embedded',
      db,
      writer,
      bus,
      yields: new YieldCache(db, bus),
      runs: new RunCache(db, bus),
      opened: {
        rebuilt: found.rebuilt,
        replayed: replayed.applied,
        setAside: replayed.setAside,
        damaged: found.damaged,
        holes,
      },
      room,
      snapshot: () => snapshots.take(),
      copies: () => copiesOf(directory),
      aside: async () => {
        await room.require();
        await writer.settleStream();
        await snapshots.take();
        return openAside(directory);
      },
      now: () => Date.now(),
      isAway: () => false,
      showWeight: (weight) => bus.showWeight(weight),
      close: async () => {
        await writer.settled();
        await writer.settleStream();
        await snapshots.end();
        bus.close();
        await client.close();
        await journal.close();
        await markClean(path, writer.lastSeq);
        lock.release();
      },
    };
  } catch (error) {
    lock.release();
    throw error;
  }
}

interface Best {
  db: Db;
  client: PGlite;
  ahead: Ahead;
  /** Number of the last entry it has. */
  applied: number;
  rebuilt: boolean;
  damaged: string[];
}

/**
 * Opens the best store there is: the one that was closed whole, else the newest snapshot that is whole, else an empty one.
 * One that does not open, or cannot say how far it has come, is named and the next one tried.
 */
async function openBest(directory: string, path: string, logger: Logger | undefined): Promise<Best> {
  const damaged: string[] = [];
  const hadStore = existsSync(path);
  const open = async (): Promise<Omit<Best, 'rebuilt' | 'damaged'>> => {
    const opened = await openPglite(join(path, 'pg'), logger);
    try {
      return { ...opened, applied: await lastSeqOf(opened.db) };
    } catch (error) {
      await opened.client.close().catch(() => undefined);
      throw error;
    }
  };
  if (existsSync(join(path, CLEAN))) {
    await rm(join(path, CLEAN));
    await flush(path);
    try {
      return { ...(await open()), rebuilt: false, damaged };
    } catch (error) {
      if (error instanceof NewerDataError) throw error;
      damaged.push(`the store (${saidBy(error)})`);
    }
  }
  await putAway(directory, path);
  for (const snapshot of await snapshotsOf(directory)) {
    try {
      await verifySnapshot(snapshot);
      await replaceStore(path, join(snapshot.path, 'pg'));
      return { ...(await open()), rebuilt: hadStore, damaged };
    } catch (error) {
      if (error instanceof NewerDataError) throw error;
      damaged.push(`the snapshot after entry ${snapshot.seq} (${saidBy(error)})`);
    }
  }
  await replaceStore(path, await templateDirectory());
  return { ...(await open()), rebuilt: hadStore, damaged };
}

/** Opens a copy of the newest snapshot. */
async function openAside(directory: string): Promise<Aside> {
  const [newest] = await snapshotsOf(directory);
  if (!newest) throw new Error('there is no snapshot to read from');
  const path = join(directory, `${ASIDE}${randomUUID()}`);
  await mkdir(path, { mode: 0o700 });
  const done = () => rm(path, { recursive: true, force: true });
  try {
    await copyTree(join(newest.path, 'pg'), join(path, 'pg'), { flush: false });
    const { db, client } = await openPglite(join(path, 'pg'));
    return { db, close: () => client.close().finally(done) };
  } catch (error) {
    await done();
    throw error;
  }
}

/** Takes away copies a run left behind that did not end whole. */
async function clearAsides(directory: string): Promise<void> {
  for (const name of await readdir(directory))
    if (name.startsWith(ASIDE)) await rm(join(directory, name), { recursive: true, force: true });
}

const saidBy = (error: unknown) => (error instanceof Error ? error.message.split('\n')[0]! : String(error));

/** Keeps what was in the place of the store once, as `store.before`. */
async function putAway(directory: string, path: string): Promise<void> {
  if (existsSync(path)) {
    // What was kept before is removed while the workshop opens: a thousand small files take a second.
    if (existsSync(`${path}.before`)) await rename(`${path}.before`, `${path}.discarded.${Date.now()}`);
    await rename(path, `${path}.before`);
  }
  for (const name of await readdir(directory))
    if (name.startsWith('store.discarded.'))
      void rm(join(directory, name), { recursive: true, force: true }).catch(() => undefined);
}

async function replaceStore(path: string, from: string): Promise<void> {
  await rm(path, { recursive: true, force: true });
  await mkdir(path, { recursive: true });
  await copyTree(from, join(path, 'pg'), { flush: false });
}

/** Takes a snapshot whenever enough entries have come since the last one. */
function snapshotKeeper(
  directory: string,
  path: string,
  client: PGlite,
  writer: Writer,
  after = SNAPSHOT_AFTER,
) {
  let last = 0;
  let taking: Promise<void> | null = null;
  const take = async () => {
    taking ??= takeSnapshot(directory, path, client)
      .then((seq) => void (last = seq))
      .finally(() => (taking = null));
    await taking;
  };
  const whenDue = async () => {
    if (!taking && writer.lastSeq - last >= after) await take();
  };
  const look = () => void whenDue().catch(() => undefined);
  // The first soon: what came in by replay, or filled a new demo, would otherwise be replayed once more after a crash.
  const soon = setTimeout(look, SNAPSHOT_SOON);
  soon.unref();
  const timer = setInterval(look, SNAPSHOT_EVERY);
  timer.unref();
  return {
    begin: async () => void (last = (await snapshotsOf(directory))[0]?.seq ?? 0),
    take,
    whenDue,
    end: async () => {
      clearTimeout(soon);
      clearInterval(timer);
      await taking?.catch(() => undefined);
    },
  };
}
