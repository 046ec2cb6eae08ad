import type { Logger } from 'drizzle-orm';
import { setTimeout as wait } from 'node:timers/promises';
import { lastSeqOf } from '../commands/group.ts';
import { handlers } from '../commands/registry.ts';
import { Writer } from '../commands/writer.ts';
import { isDatabaseAway } from '../db/away.ts';
import { openPostgres } from '../db/database.ts';
import { EventBus, type BusEvent } from '../live/bus.ts';
import { Listener } from '../live/listener.ts';
import { missedAfter } from '../live/missed.ts';
import { RunCache } from '../machines/runs.ts';
import { YieldCache } from '../views/yieldCache.ts';
import { WITHOUT_FILES, type Store } from './store.ts';

/** How to open a PostgreSQL server. */
export interface ServerOptions {
  logger?: Logger;
  /** Told each time the database could not be reached at the start. */
  onWaiting?: (error: unknown) => void;
}

/** Between two tries to reach the database at the start, ms. */
const TRY_EVERY = 2000;

/** Most missed changes read at a time after the connection was lost. */
const CATCH_UP = 1000;

/**
 * Opens a PostgreSQL server, waiting until it can be reached. Its own log makes entries durable; changes and weights made
 * through other web servers arrive by notification, and after a lost connection the missed ones are read from the trail.
 */
export async function openServer(url: string, options: ServerOptions = {}): Promise<Store> {
  const { db, pool } = await openWhenThere(url, options);
  const bus = new EventBus();
  let seen = await lastSeqOf(db);
  // Entries are committed one after the other over all servers, and told in that order: what is not newer has been told.
  const publish = (event: BusEvent) => {
    if (event.seq <= seen) return;
    seen = event.seq;
    bus.publish(event);
  };
  // Between a lost connection and the end of catching up, what is heard waits: most of it is among what is read then.
  let waiting: BusEvent[] | null = null;
  const listener = new Listener(url, {
    channels: {
      wunsch: (payload) => {
        const event = JSON.parse(payload) as BusEvent;
        if (waiting) waiting.push(event);
        else publish(event);
      },
      wunsch_weight: (payload) =>
        bus.showWeight(JSON.parse(payload) as Parameters<EventBus['showWeight']>[0]),
    },
    onLost: () => {
      waiting ??= [];
    },
    onBack: async () => {
      const heard = (waiting ??= []);
      for (;;) {
        const missed = await missedAfter(db, seen, CATCH_UP);
        missed.forEach(publish);
        if (missed.length < CATCH_UP) break;
      }
      waiting = null;
      // A notice may come after the trail has told of it, now or later.
      heard.forEach(publish);
    },
  });
  await listener.start();
  const writer = new Writer({
    db,
    handlers,
    journal: null,
    shared: true,
    lastSeq: seen,
    // Pages are told by the database's notice, in the order of all servers; what is remembered here must not wait for it.
    publish: (event) => bus.publishToCaches(event),
    onFatal: () => undefined,
  });
  return {
    kind: 'postgresql',
    db,
    writer,
    bus,
    yields: new YieldCache(db, bus),
    runs: new RunCache(db, bus),
    ...WITHOUT_FILES,
    aside: () => Promise.resolve({ db, close: () => Promise.resolve() }),
    now: () => Date.now(),
    isAway: () => !listener.connected,
    showWeight: (weight) => void listener.notify('wunsch_weight', JSON.stringify(weight)),
    close: async () => {
      await writer.settled();
      bus.close();
      await listener.stop();
      await pool.end();
    },
  };
}

async function openWhenThere(url: string, { logger, onWaiting }: ServerOptions) {
  for (;;) {
    try {
      return await openPostgres(url, logger);
    } catch (error) {
      if (!isDatabaseAway(error)) throw error;
      onWaiting?.(error);
      await wait(TRY_EVERY);
    }
  }
}
