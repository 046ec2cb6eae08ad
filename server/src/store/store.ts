import type { Writer } from '../commands/writer.ts';
import type { Db } from '../db/database.ts';
import type { DiskRoom } from '../db/room.ts';
import type { JournalHole } from '../journal/journal.ts';
import type { EventBus } from '../live/bus.ts';
import type { RunCache } from '../machines/runs.ts';
import type { YieldCache } from '../views/yieldCache.ts';

/** How opening went, for the log and the owner. */
export interface Opened {
  /** Whether the store was rebuilt from a snapshot or the journal alone. */
  rebuilt: boolean;
  /** Entries that came from the journal. */
  replayed: number;
  /** Entries of the journal that could not be applied and were set aside. */
  setAside: number;
  /** Stores and snapshots that were tried and found damaged. */
  damaged: string[];
  /** Stretches of the journal that are not there, accepted by the owner. */
  holes: JournalHole[];
}

/** A workshop as it stood at a moment. */
export interface Aside {
  db: Db;
  close: () => Promise<void>;
}

/** An open workshop database with its one door for writing. */
export interface Store {
  kind: 'embedded' | 'postgresql' | 'memory';
  db: Db;
  writer: Writer;
  bus: EventBus;
  /** Past yields for forecasts and charts. */
  yields: YieldCache;
  /** What machines have learned from their runs. */
  runs: RunCache;
  opened: Opened;
  /** Room on the disk of an embedded store; null elsewhere. */
  room: DiskRoom | null;
  /** When the store was last copied beside its journal, and when it was last backed up elsewhere; instants, or null for never. */
  copies: () => Promise<{ lastSnapshotAt: string | null; lastBackupAt: string | null }>;
  /** Copies an embedded store now; nothing elsewhere. */
  snapshot: () => Promise<void>;
  /** A database that stands still, to read for minutes without keeping anybody waiting; to be closed afterwards. */
  aside: () => Promise<Aside>;
  /** Epoch ms of the workshop's clock; a practice workshop has its own, sped up. */
  now: () => number;
  /** Whether the database cannot be reached at the moment. */
  isAway: () => boolean;
  /** Tells every open page what a scale shows. */
  showWeight: EventBus['showWeight'];
  close(): Promise<void>;
}

/** What a store answers that keeps no files of its own: nothing to recover, no disk to fill, no copies to take. */
export const WITHOUT_FILES = {
  opened: { rebuilt: false, replayed: 0, setAside: 0, damaged: [], holes: [] },
  room: null,
  snapshot: () => Promise.resolve(),
  copies: () => Promise.resolve({ lastSnapshotAt: null, lastBackupAt: null }),
} satisfies Partial<Store>;
