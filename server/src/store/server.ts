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
  const publish = (event: BusEvent) => {
    seen = Math.max(seen, event.seq);
    bus.publish(event);
  };
  // Between a lost connection and the end of catching up, what is heard waits: most of it is among what is read then.
  let waiting: { heard: BusEvent[]; told: Set<number> } | null = null;
  const listener = new Listener(url, {
    channels: {
      wunsch: (payload) => {
        const event = JSON.parse(payload) as BusEvent;
        if (waiting) waiting.heard.push(event);
        else publish(event);
      },
      wunsch_weight: (payload) =>
        bus.showWeight(JSON.parse(payload) as Parameters<EventBus['showWeight']>[0]),
    },
    onLost: () => {
      waiting ??= { heard: [], told: new Set() };
    },
    onBack: async () => {
      const { heard, told } = (waiting ??= { heard: [], told: new Set() });
      for (;;) {
        const missed = await missedAfter(db, seen, CATCH_UP);
        for (const event of missed) {
          told.add(event.seq);
          publish(event);
        }
        if (missed.length < CATCH_UP) break;
      }
      waiting = null;
      for (const event of heard) if (!told.has(event.seq)) publish(event);
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
