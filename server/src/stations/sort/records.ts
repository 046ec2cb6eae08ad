import { and, desc, eq, inArray } from 'drizzle-orm';
import type { SortRecord } from '@wunsch/contract';
import type { Db } from '../../db/database.ts';
import { batch, lot, movement, step } from '../../db/schema/index.ts';
import { inForce } from '../../ledger/parcels.ts';

/** Most sortings compared. */
const MOST = 120;

/** Rejects by reason of the latest finished sortings, over all lots. */
export async function loadSortRecords(db: Db): Promise<SortRecord[]> {
  const steps = await db
    .select({
      id: step.id,
      batchId: batch.id,
      batchCode: batch.code,
      lotId: lot.id,
      lotCode: lot.code,
      startedAt: step.startedAt,
      endedAt: step.endedAt,
      minutes: step.handsOnMinutes,
    })
    .from(step)
    .innerJoin(batch, eq(batch.id, step.batchId))
    .innerJoin(lot, eq(lot.id, batch.lotId))
    .where(and(eq(step.kind, 'sort'), eq(step.status, 'closed'), eq(step.voided, false)))
    .orderBy(desc(step.endedAt), desc(step.id))
    .limit(MOST);
  if (steps.length === 0) return [];
  const lines = await db
    .select({
      stepId: movement.stepId,
      direction: movement.direction,
      massMg: movement.massMg,
      reason: movement.reason,
      material: movement.material,
    })
    .from(movement)
    .where(
      and(
        inArray(
          movement.stepId,
          steps.map((s) => s.id),
        ),
        inForce,
      ),
    );
  return steps.map(({ id, ...s }) => {
    const mine = lines.filter((l) => l.stepId === id);
    const rejects = new Map<string, number>();
    for (const l of mine) {
      const reason = l.direction === 'loss' ? l.reason : l.material === 'rejects' ? 'other' : null;
      // Dust and unexplained differences are nobody's reject.
      if (reason && reason !== 'sweepings' && reason !== 'unexplained')
        rejects.set(reason, (rejects.get(reason) ?? 0) + l.massMg);
    }
    return {
      stepId: id,
      ...s,
      inMg: mine.filter((l) => l.direction === 'in').reduce((sum, l) => sum + l.massMg, 0),
      rejects: [...rejects].map(([reason, massMg]) => ({ reason, massMg })),
    };
  });
}
