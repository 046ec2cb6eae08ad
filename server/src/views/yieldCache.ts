import type { Db } from '../db/database.ts';
import type { EventBus } from '../live/bus.ts';
import { loadPastYields, type PastYield } from './yields.ts';

/** Most sets of lots kept. */
const KEPT = 50;

/** Past yields, read once and kept until an entry that may change a finished step. */
export class YieldCache {
  private readonly kept = new Map<string, Promise<PastYield[]>>();

  constructor(
    private readonly db: Db,
    bus: EventBus,
  ) {
    bus.whenTouched(['yields'], () => this.kept.clear());
  }

  /** Yields of the latest batches of some lots and of the workshop, as {@link loadPastYields}. */
  load(lotIds: readonly string[]): Promise<PastYield[]> {
    const key = [...lotIds].sort().join(' ');
    let found = this.kept.get(key);
    if (!found) {
      found = loadPastYields(this.db, lotIds);
      found.catch(() => this.kept.delete(key));
      if (this.kept.size >= KEPT) this.kept.clear();
      this.kept.set(key, found);
    }
    return found;
  }
}
