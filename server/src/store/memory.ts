import { PGlite } from '@electric-sql/pglite';
import { drizzle } from 'drizzle-orm/pglite';
import { handlers } from '../commands/registry.ts';
import { Writer } from '../commands/writer.ts';
import type { Db } from '../db/database.ts';
import { withPreparedStatements } from '../db/prepared.ts';
import { templateArchive } from '../db/template.ts';
import { EventBus } from '../live/bus.ts';
import { RunCache } from '../machines/runs.ts';
import { YieldCache } from '../views/yieldCache.ts';
import { WITHOUT_FILES, type Store } from './store.ts';

/** How to open a throw-away store. */
export interface MemoryOptions {
  /** Epoch ms its clock shows at first. */
  startsAt: number;
  /** Seconds of its clock for each second of ours. */
  speed: number;
}

/**
 * Opens a workshop that lives in memory: the same handlers and pages work on it, on a clock of its own, and nothing of it is
 * kept once it is closed.
 *
 * @throws RangeError for a speed that is not above 0
 */
export async function openMemory({ startsAt, speed }: MemoryOptions): Promise<Store> {
  if (!(speed > 0 && Number.isFinite(speed)))
    throw new RangeError(`a clock’s speed must be above 0, not ${speed}`);
  const client = await PGlite.create({ loadDataDir: await templateArchive() });
  const db = drizzle(withPreparedStatements(client)) as unknown as Db;
  const opened = performance.now();
  const now = () => Math.round(startsAt + (performance.now() - opened) * speed);
  const bus = new EventBus();
  const writer = new Writer({
    db,
    handlers,
    journal: null,
    shared: false,
    lastSeq: 0,
    publish: (event) => bus.publish(event),
    onFatal: () => undefined,
    now,
  });
  return {
    kind: 'memory',
    db,
    writer,
    bus,
    yields: new YieldCache(db, bus),
    runs: new RunCache(db, bus),
    ...WITHOUT_FILES,
    aside: () => Promise.resolve({ db, close: () => Promise.resolve() }),
    now,
    isAway: () => false,
    showWeight: (weight) => bus.showWeight(weight),
    close: async () => {
      await writer.settled();
      bus.close();
      await client.close();
    },
  };
}
