import { asc, gt } from 'drizzle-orm';
import type { ChangeEvent } from '@wunsch/contract';
import type { Db } from '../db/database.ts';
import { trail } from '../db/schema/index.ts';

/** Changes after one, by number, oldest first, at most so many. */
export function missedAfter(db: Db, seq: number, most: number): Promise<ChangeEvent[]> {
  return db
    .select({
      seq: trail.seq,
      kind: trail.kind,
      target: trail.target,
      batchId: trail.batchId,
      by: trail.personId,
      touches: trail.touches,
    })
    .from(trail)
    .where(gt(trail.seq, seq))
    .orderBy(asc(trail.seq))
    .limit(most);
}
