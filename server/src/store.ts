import type { PGlite } from '@electric-sql/pglite';
import type { Logger } from 'drizzle-orm';
import { existsSync } from 'node:fs';
import { mkdir, readdir, rename, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { handlers } from './commands/registry.ts';
import { Writer } from './commands/writer.ts';
import { openPglite, openPostgres, type Db } from './db/database.ts';
import { copyTree, flush, flushTree } from './db/files.ts';
import { lockDirectory } from './db/lock.ts';
import { templateDirectory } from './db/template.ts';
import { Journal } from './journal/journal.ts';
import { EventBus, type BusEvent } from './live/bus.ts';
import { lastSeqOf } from './views/batchView.ts';
import { RunCache } from './stations/grind/runs.ts';
import { YieldCache } from './views/yieldCache.ts';

/** An open workshop database with its one door for writing. */
export interface Store {
  kind: 'embedded' | 'postgresql';
  db: Db;
  writer: Writer;
  bus: EventBus;
  /** Past yields for forecasts and charts. */
  yields: YieldCache;
  /** What machines have learned from their runs. */
  runs: RunCache;
  /** How opening went, for the log. */
  opened: { rebuilt: boolean; replayed: number };
  close(): Promise<void>;
}

/** How to open the embedded store. */
export interface EmbeddedOptions {
  directory: string;
  logger?: Logger;
  /** Entries in the journal since the last snapshot that make a new one worth its time. */
  snapshotAfter?: number;
  onFatal?: (error: unknown) => void;
}

const SNAPSHOT_AFTER = 400;
const SNAPSHOTS_KEPT = 2;

/** Name of the mark that says a store was closed whole; it holds the number of the last entry. */
const CLEAN = 'CLEAN';

/**
 * Opens the embedded store of a data directory:
 * `lock`, `store/` (PGlite), `journal/` and `snapshots/`.
 *
 * PGlite never flushes to the disk, so a store that was not closed whole is never trusted: it is rebuilt
 * from the last snapshot, and the journal, which was flushed before every answer, supplies the rest.
 *
 * @throws DirectoryLockedError while another process has the directory
 * @throws JournalDamagedError when the journal itself is damaged
 */
export async function openEmbedded(options: EmbeddedOptions): Promise<Store> {
  const { directory, logger } = options;
  await mkdir(directory, { recursive: true });
  const lock = await lockDirectory(directory);
  try {
    const journal = await Journal.open(join(directory, 'journal'));
    const path = join(directory, 'store');
    let rebuilt = false;
    if (existsSync(join(path, CLEAN))) {
      await rm(join(path, CLEAN));
      await flush(path);
    } else {
      rebuilt = existsSync(path);
      await restore(directory, path);
    }
    let opened: Awaited<ReturnType<typeof openPglite>>;
    try {
      opened = await openPglite(join(path, 'pg'), logger);
    } catch {
      rebuilt = true;
      await restore(directory, path);
      opened = await openPglite(join(path, 'pg'), logger);
    }
    const { db, client } = opened;
    const applied = await lastSeqOf(db);
    journal.continueAfter(applied);
    const bus = new EventBus();
    const onFatal =
      options.onFatal ??
      ((error) => {
        throw error;
      });
    const writer = new Writer({
      db,
      handlers,
      journal,
      lastSeq: applied,
      publish: (e) => bus.publish(e),
      onFatal,
    });
    const replayed = await writer.replay(journal.since(applied));
    const store: Store = {
      kind: 'embedded',
      db,
      writer,
      bus,
      yields: new YieldCache(db, bus),
      runs: new RunCache(db, bus),
      opened: { rebuilt, replayed },
      close: async () => {
        clearInterval(timer);
        await writer.settled();
        await writer.settleStream();
        await taking?.catch(() => undefined);
        bus.close();
        await client.close();
        await journal.close();
        await markClean(path, writer.lastSeq);
        lock.release();
      },
    };
    let snapshotAt = await newestSnapshot(directory).then((s) => s?.seq ?? 0);
    let taking: Promise<void> | null = null;
    const snapshotWhenDue = async () => {
      if (taking || writer.lastSeq - snapshotAt < (options.snapshotAfter ?? SNAPSHOT_AFTER)) return;
      taking = takeSnapshot(directory, path, client)
        .then((seq) => void (snapshotAt = seq))
        .finally(() => (taking = null));
      await taking;
    };
    // After a crash the next one is made cheap at once; otherwise it waits for the clock.
    if (rebuilt) await snapshotWhenDue();
    const timer = setInterval(() => void snapshotWhenDue().catch(() => undefined), 30_000);
    timer.unref();
    return store;
  } catch (error) {
    lock.release();
    throw error;
  }
}

/** Opens a PostgreSQL server. Its own log makes entries durable; changes made by other web servers arrive by notification. */
export async function openServer(url: string, logger?: Logger): Promise<Store> {
  const { db, pool } = await openPostgres(url, logger);
  const bus = new EventBus();
  const listener = await pool.connect();
  listener.on('notification', (message) => bus.publish(JSON.parse(message.payload ?? '{}') as BusEvent));
  await listener.query('listen wunsch');
  const writer = new Writer({
    db,
    handlers,
    journal: null,
    lastSeq: await lastSeqOf(db),
    publish: () => undefined,
    onFatal: () => undefined,
  });
  return {
    kind: 'postgresql',
    db,
    writer,
    bus,
    yields: new YieldCache(db, bus),
    runs: new RunCache(db, bus),
    opened: { rebuilt: false, replayed: 0 },
    close: async () => {
      await writer.settled();
      bus.close();
      listener.release(true);
      await pool.end();
    },
  };
}

async function markClean(path: string, seq: number): Promise<void> {
  await flushTree(path);
  await writeFile(join(path, CLEAN), String(seq));
  await flush(join(path, CLEAN));
  await flush(path);
}

/** Puts the newest snapshot, or an empty database, in the place of the store; the old one is kept once as `store.before`. */
async function restore(directory: string, path: string): Promise<void> {
  const snapshot = await newestSnapshot(directory);
  if (existsSync(path)) {
    // What was kept before is removed while the workshop opens: a thousand small files take a second.
    if (existsSync(`${path}.before`)) await rename(`${path}.before`, `${path}.discarded.${Date.now()}`);
    await rename(path, `${path}.before`);
  }
  for (const name of await readdir(directory))
    if (name.startsWith('store.discarded.'))
      void rm(join(directory, name), { recursive: true, force: true }).catch(() => undefined);
  await mkdir(path, { recursive: true });
  await copyTree(snapshot ? join(snapshot.path, 'pg') : await templateDirectory(), join(path, 'pg'), {
    flush: false,
  });
}

async function newestSnapshot(directory: string): Promise<{ path: string; seq: number } | null> {
  const folder = join(directory, 'snapshots');
  if (!existsSync(folder)) return null;
  const whole = (await readdir(folder)).filter((n) => /^\d+$/.test(n) && existsSync(join(folder, n, CLEAN)));
  const seqs = whole.map(Number).sort((a, b) => b - a);
  return seqs.length > 0 ? { path: join(folder, String(seqs[0])), seq: seqs[0]! } : null;
}

/** Copies the store after a checkpoint, inside a transaction so that nothing else uses it meanwhile, and flushes the copy. */
function takeSnapshot(directory: string, path: string, client: PGlite): Promise<number> {
  const folder = join(directory, 'snapshots');
  return client.transaction(async (tx) => {
    await tx.exec('checkpoint');
    const found = await tx.query<{ seq: number }>('select coalesce(max(seq), 0)::int as seq from trail');
    const seq = found.rows[0]!.seq;
    const part = join(folder, `${seq}.new`);
    await rm(part, { recursive: true, force: true });
    await mkdir(part, { recursive: true });
    await copyTree(join(path, 'pg'), join(part, 'pg'), { flush: true });
    await writeFile(join(part, CLEAN), String(seq));
    await flush(join(part, CLEAN));
    await rename(part, join(folder, String(seq)));
    await flush(folder);
    const names = await readdir(folder);
    const unfinished = names.filter((n) => n.endsWith('.new'));
    for (const name of unfinished) await rm(join(folder, name), { recursive: true, force: true });
    const old = names
      .filter((n) => /^\d+$/.test(n))
      .map(Number)
      .sort((a, b) => b - a);
    for (const n of old.slice(SNAPSHOTS_KEPT))
      await rm(join(folder, String(n)), { recursive: true, force: true });
    return seq;
  });
}
