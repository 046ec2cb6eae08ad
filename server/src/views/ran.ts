import { sql } from 'drizzle-orm';
import { ranHours, type RanStep } from '@wunsch/core/ledger';
import type { Db } from '../db/database.ts';
import { step } from '../db/schema/index.ts';
import { instantOf, rowsOf, uuids } from '../db/raw.ts';
import { pausesOf, type GrindNote } from '../stations/grind/index.ts';

/** A step that has ended, or not yet. */
type Step = Omit<RanStep, 'endedAt' | 'pauses'> & { id: string; endedAt: string | null };

/** What of a step tells how long its machine ran. */
export const RAN = {
  id: step.id,
  kind: step.kind,
  startedAt: step.startedAt,
  endedAt: step.endedAt,
  handsOnMinutes: step.handsOnMinutes,
};

/**
 * Hours the machines of some steps ran, for their cost, their own pages, and what the plan learns from them: there is one reckoning. Steps that have
 * not ended are not in the answer.
 */
export async function loadRanHours(db: Db, steps: readonly Step[]): Promise<Map<string, number>> {
  const ended = steps.flatMap(({ endedAt, ...s }) => (endedAt === null ? [] : [{ ...s, endedAt }]));
  if (ended.length === 0) return new Map();
  const rows = rowsOf<{ stepId: string } & GrindNote>(
    await db.execute(sql`
      select step_id as "stepId", ${instantOf('at')} as at, data from observation
      where step_id = any(${uuids(ended.map((s) => s.id))}) and kind in ('pause', 'resume') and replaced_by is null and not voided
      order by at, seq`),
  );
  const notes = new Map<string, GrindNote[]>();
  for (const { stepId, ...note } of rows) notes.set(stepId, [...(notes.get(stepId) ?? []), note]);
  return new Map(ended.map((s) => [s.id, ranHours({ ...s, pauses: pausesOf(notes.get(s.id) ?? []) })]));
}
