import { and, eq, inArray } from 'drizzle-orm';
import type { Db } from '../db/database.ts';
import { step } from '../db/schema/index.ts';
import { loadRanHours, RAN } from './ran.ts';

/**
 * Hours in grinder and conche of batches, machines that stood left out, as their own pages have them; finished work only.
 *
 * @param batchIds which batches; those without such work are not in the answer
 */
export async function loadRefiningHours(db: Db, batchIds: readonly string[]): Promise<Map<string, number>> {
  const hours = new Map<string, number>();
  if (batchIds.length === 0) return hours;
  const steps = await db
    .select({ ...RAN, batchId: step.batchId })
    .from(step)
    .where(
      and(
        inArray(step.batchId, [...batchIds]),
        inArray(step.kind, ['grind', 'conche']),
        eq(step.status, 'closed'),
        eq(step.voided, false),
      ),
    );
  const ran = await loadRanHours(db, steps);
  for (const { id, batchId } of steps)
    if (ran.has(id)) hours.set(batchId!, (hours.get(batchId!) ?? 0) + ran.get(id)!);
  return hours;
}
