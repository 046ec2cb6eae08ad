import { and, asc, eq, inArray, isNotNull, isNull } from 'drizzle-orm';
import { grindingHours } from '@wunsch/core/grind';
import type { Db } from '../db/database.ts';
import { observation, step } from '../db/schema/index.ts';
import { pausesOf, type GrindNote } from '../stations/grind/index.ts';

/**
 * Hours in grinder and conche of batches, machines that stood left out, as their own pages have them; finished work only.
 *
 * @param batchIds which batches; those without such work are not in the answer
 */
export async function loadRefiningHours(db: Db, batchIds: readonly string[]): Promise<Map<string, number>> {
  const hours = new Map<string, number>();
  if (batchIds.length === 0) return hours;
  const isRefining = and(
    inArray(step.batchId, [...batchIds]),
    inArray(step.kind, ['grind', 'conche']),
    eq(step.status, 'closed'),
    eq(step.voided, false),
    isNotNull(step.endedAt),
  );
  const steps = await db
    .select({ id: step.id, batchId: step.batchId, startedAt: step.startedAt, endedAt: step.endedAt })
    .from(step)
    .where(isRefining);
  const notes = await db
    .select({ stepId: observation.stepId, at: observation.at, data: observation.data })
    .from(observation)
    .innerJoin(step, eq(step.id, observation.stepId))
    .where(
      and(
        isRefining,
        inArray(observation.kind, ['pause', 'resume']),
        isNull(observation.replacedBy),
        eq(observation.voided, false),
      ),
    )
    .orderBy(asc(observation.at), asc(observation.seq));
  for (const { id, batchId, startedAt, endedAt } of steps) {
    const pauses = pausesOf(notes.filter((n) => n.stepId === id) as GrindNote[]);
    const ran = grindingHours(Date.parse(startedAt), Date.parse(endedAt!), pauses);
    hours.set(batchId!, (hours.get(batchId!) ?? 0) + ran);
  }
  return hours;
}
