import { and, eq, isNull } from 'drizzle-orm';
import type { Context } from '../commands/command.ts';
import { movement, observation, step } from '../db/schema/index.ts';
import { Problem } from '../http/problem.ts';
import { changeParcel } from './parcels.ts';

/**
 * Brings back the steps that one entry took out of the books, with their lines and what was seen at them, as they stood. What had been
 * taken back before that entry stays away.
 *
 * @param seq the entry that took them out
 * @returns the steps that are back
 * @throws Problem 409 `oversubscribed` where what they had taken has gone elsewhere since
 */
export async function restoreVoided(context: Context, seq: number): Promise<string[]> {
  const { tx } = context;
  const lines = await tx
    .update(movement)
    .set({ voided: false, voidedBy: null })
    .where(and(eq(movement.voidedBy, seq), eq(movement.voided, true)))
    .returning();
  // What came out first, since a later step of the same batch takes from it again.
  for (const direction of ['out', 'in'] as const)
    for (const line of lines)
      if (line.direction === direction && line.parcelId) {
        const sign = direction === 'out' ? 1 : -1;
        const count = line.count === null ? null : sign * line.count;
        await changeParcel(context, line.parcelId, sign * line.massMg, count);
      }
  await tx
    .update(observation)
    .set({ voided: false, voidedBy: null })
    .where(and(eq(observation.voidedBy, seq), eq(observation.voided, true)));
  const back = await tx
    .update(step)
    .set({ voided: false, voidedBy: null })
    .where(and(eq(step.voidedBy, seq), eq(step.voided, true)))
    .returning({ id: step.id });
  return back.map((s) => s.id);
}

/**
 * @throws Problem 409 `not-undoable` where steps of a batch were taken out of the books by a release that did not say with which entry
 */
export async function requireKnownVoids({ tx }: Context, batchId: string): Promise<void> {
  const [unknown] = await tx
    .select({ id: step.id })
    .from(step)
    .where(and(eq(step.batchId, batchId), eq(step.voided, true), isNull(step.voidedBy)))
    .limit(1);
  if (unknown)
    throw new Problem({
      status: 409,
      code: 'not-undoable',
      detail: 'its steps were taken out of the books by an older release; start a new batch',
    });
}
