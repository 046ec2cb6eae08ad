import { drizzle } from 'drizzle-orm/pglite';
import { handlers } from '../commands/registry.ts';
import { Writer } from '../commands/writer.ts';
import type { Db } from '../db/database.ts';
import { startPglite } from '../db/pglite.ts';
import { withPreparedStatements } from '../db/prepared.ts';
import { emptyArchive } from '../db/template.ts';
import { EventBus } from '../live/bus.ts';
import { RunCache } from '../machines/runs.ts';
import { YieldCache } from '../views/yieldCache.ts';
import { WITHOUT_FILES, type Store } from './store.ts';

/**
 * Opens a workshop that lives in memory: the same handlers and pages work on it, on a clock of its own, and nothing of it is
 * kept once it is closed.
 *
 * @param now epoch ms its clock shows
 */
export async function openMemory(now: () => number): Promise<Store> {
  const bare = await startPglite(undefined, { loadDataDir: await emptyArchive('template') });
  const { client, ahead } = withPreparedStatements(bare);
  const db = drizzle(client) as unknown as Db;
  const bus = new EventBus();
  const writer = new Writer({
    db,
    ahead,
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
