import { eq } from 'drizzle-orm';
import type { StepDetails } from '@wunsch/contract';
import { ENTRY_STATION, type StepKind } from '@wunsch/core/ledger';
import type { Context } from '../commands/command.ts';
import { movement, parcel, step } from '../db/schema/index.ts';
import { notFound, Problem } from '../http/problem.ts';

/** A parcel row as stored. */
export type ParcelRow = typeof parcel.$inferSelect;

/** A line about to be written. */
export type NewLine = typeof movement.$inferInsert;

/**
 * The parcel, which must exist.
 *
 * @throws Problem 404
 */
export async function parcelOf({ tx }: Context, id: string): Promise<ParcelRow> {
  const [row] = await tx.select().from(parcel).where(eq(parcel.id, id));
  if (!row) throw notFound('parcel', id);
  return row;
}

/**
 * Refuses what has been set aside.
 *
 * @throws Problem 409 `on-hold`
 */
export function requireFree(row: ParcelRow): void {
  if (!row.onHold) return;
  throw new Problem({
    status: 409,
    code: 'set-aside',
    field: 'parcelId',
    detail: `these ${row.material}${row.label ? ` (${row.label})` : ''} are set aside${row.holdReason ? `: ${row.holdReason}` : ''}; let them go first`,
    params: {
      material: (['ingredient', 'packaging'].includes(row.material) && row.label) || row.material,
      reason: row.holdReason,
    },
  });
}

/**
 * A closed step beside the work: material that leaves, is counted, parted or joined. Gives what all of its lines share.
 */
export async function besideStep(
  { tx, at, by, seq }: Context,
  {
    id,
    kind,
    of,
    details = {},
    when = at,
    work,
  }: {
    id: string;
    kind: Extract<StepKind, 'leave' | 'count' | 'part' | 'drain' | 'press' | 'write-off'>;
    of: ParcelRow;
    details?: StepDetails;
    when?: string;
    /** What it took, where it is work and somebody has said. */
    work?: { machineId: string | null; ranMinutes: number | null; handsOnMinutes: number | null };
  },
): Promise<Pick<NewLine, 'stepId' | 'batchId' | 'at' | 'by' | 'seq'>> {
  await tx.insert(step).values({
    id,
    batchId: of.batchId,
    station: ENTRY_STATION[of.material],
    kind,
    status: 'closed',
    ...(work && { machineId: work.machineId, handsOnMinutes: work.handsOnMinutes }),
    startedAt: new Date(Date.parse(when) - 60_000 * (work?.ranMinutes ?? 0)).toISOString(),
    endedAt: when,
    details,
    by,
  });
  return { stepId: id, batchId: of.batchId, at: when, by, seq };
}

/** How a taken mass came about: all there was, so many pieces, or weighed. */
export function sourceOf(asked: { massMg: number | null; count: number | null }): NewLine['source'] {
  if (asked.massMg !== null) return 'weighed';
  return asked.count === null ? 'derived' : 'counted';
}
