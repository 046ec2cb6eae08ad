import { and, eq, isNull } from 'drizzle-orm';
import { takePieces, type Movement } from '@wunsch/core/ledger';
import { formatMass } from '@wunsch/core/quantity';
import type { Context } from '../commands/command.ts';
import { batch, movement, parcel, step } from '../db/schema/index.ts';
import { notFound, Problem } from '../http/problem.ts';

/** A movement row as stored. */
export type MovementRow = typeof movement.$inferSelect;

/** Condition for movements that count. */
export const inForce = and(isNull(movement.replacedBy), eq(movement.voided, false))!;

/** Movements in force of one step. */
export async function movementsOfStep(context: Context, stepId: string): Promise<MovementRow[]> {
  return context.tx
    .select()
    .from(movement)
    .where(and(eq(movement.stepId, stepId), inForce))
    .orderBy(movement.seq, movement.id);
}

const derivedOutputOf = (stepId: string) => `derived output of ${stepId}`;

/** Whether an output of a step takes what its balance leaves. */
function hasDerivedOutput({ rows, tx }: Context, stepId: string): Promise<boolean> {
  return rows.find(derivedOutputOf(stepId), async () => {
    const found = await tx
      .select({ id: movement.id })
      .from(movement)
      .where(
        and(
          eq(movement.stepId, stepId),
          eq(movement.source, 'derived'),
          eq(movement.direction, 'out'),
          inForce,
        ),
      )
      .limit(1);
    return found.length > 0;
  });
}

/** Whether a line is an output that takes what the balance of its step leaves. */
export const isDerivedOutput = (line: Pick<typeof movement.$inferInsert, 'source' | 'direction'>) =>
  line.source === 'derived' && line.direction === 'out';

/** Whether anything follows from a step's balance: while it is open nothing does, unless what is left has been taken as an output. */
export const balanceIsFollowed = async (
  context: Context,
  { id, status, kind }: Pick<typeof step.$inferSelect, 'id' | 'status' | 'kind'>,
): Promise<boolean> => (status !== 'open' && kind !== 'receive') || (await hasDerivedOutput(context, id));

/** Adds lines of weight. */
export async function addMovements(
  { rows }: Context,
  lines: readonly (typeof movement.$inferInsert)[],
): Promise<void> {
  for (const line of lines) if (isDerivedOutput(line)) rows.drop(derivedOutputOf(line.stepId));
  await rows.add(movement, lines);
}

/** The step, which must exist and not be voided. */
export async function getStep(context: Context, id: string): Promise<typeof step.$inferSelect> {
  const row = await context.once(`step ${id}`, () => context.rows.get(step, id));
  if (!row || row.voided) throw notFound('step', id);
  return row;
}

/** The batch's code and state; it must exist. */
export async function requireBatch(
  context: Context,
  batchId: string,
): Promise<Pick<typeof batch.$inferSelect, 'state' | 'code'>> {
  const row = await context.once(`batch ${batchId}`, () => context.rows.get(batch, batchId));
  if (!row) throw notFound('batch', batchId);
  return row;
}

/** Refuses work on a batch that is voided, abandoned or finished. */
export async function requireOpenBatch(context: Context, batchId: string | null): Promise<void> {
  if (!batchId) return;
  const row = await requireBatch(context, batchId);
  if (row.state !== 'open') {
    throw new Problem({
      status: 409,
      code: 'batch-not-open',
      detail: `batch ${row.code} is ${row.state}; reopen it to add or correct entries`,
      params: { state: row.state, batch: row.code },
    });
  }
}

/**
 * What is taken from a parcel when a mass, pieces, both or neither (all there is) is named; `count` is null for what is not counted.
 *
 * @throws Problem 409 `oversubscribed` where nothing or not enough is left, 422 where the pieces cannot be told
 */
export function takenFrom(
  from: Pick<typeof parcel.$inferSelect, 'material' | 'remainingMg' | 'count'>,
  asked: { massMg: number | null; count: number | null },
): { massMg: number; count: number | null } {
  if (from.remainingMg <= 0)
    throw new Problem({
      status: 409,
      code: 'oversubscribed',
      field: 'massMg',
      detail: `nothing of these ${from.material} is left`,
      params: { thereMg: 0 },
    });
  if (from.count === null || (asked.massMg ?? 0) > from.remainingMg) {
    if (asked.count !== null && from.count === null)
      throw new Problem({
        status: 422,
        code: 'not-counted',
        field: 'count',
        detail: `these ${from.material} are weighed, not counted; leave the number of pieces out`,
      });
    return { massMg: asked.massMg ?? from.remainingMg, count: asked.count };
  }
  try {
    return takePieces({ remainingMg: from.remainingMg, remainingCount: from.count }, asked);
  } catch (error) {
    const said = error instanceof Error ? error.message : String(error);
    throw new Problem({
      status: asked.count !== null && asked.count > from.count ? 409 : 422,
      code: asked.count !== null && asked.count > from.count ? 'oversubscribed' : 'pieces',
      field: 'count',
      detail: `${said}; ${from.count} ${from.material} of ${formatMass(from.remainingMg, 'metric')} are there`,
      params: { thereMg: from.remainingMg, there: from.count },
    });
  }
}

/**
 * Changes what is left of a parcel by whole mg, and by pieces where it is counted.
 *
 * @throws Problem `oversubscribed` with the mass that is there and where the rest went
 */
export async function changeParcel(
  context: Context,
  parcelId: string,
  deltaMg: number,
  deltaCount: number | null = null,
): Promise<void> {
  if (deltaMg === 0 && !deltaCount) return;
  const there = await context.rows.get(parcel, parcelId);
  if (!there) throw notFound('parcel', parcelId);
  await changeParcelRow(context, there, deltaMg, deltaCount);
}

/** Under what the deliveries are found that have something left. */
export const DELIVERIES = 'deliveries';

/** Changes a parcel just read, as {@link changeParcel} does. */
export async function changeParcelRow(
  { rows, tx }: Context,
  there: typeof parcel.$inferSelect,
  deltaMg: number,
  deltaCount: number | null = null,
): Promise<void> {
  // What was empty may be taken from again.
  if (deltaMg > 0 && there.remainingMg === 0 && there.material === 'ingredient') rows.drop(DELIVERIES);
  const remainingMg = there.remainingMg + deltaMg;
  const count = deltaCount ? (there.count ?? 0) + deltaCount : there.count;
  if (remainingMg >= 0 && (count === null || count >= 0))
    return rows.set(parcel, there, { remainingMg, ...(deltaCount && { count }) });
  const taken = await tx
    .select({ massMg: movement.massMg, station: step.station, code: batch.code })
    .from(movement)
    .innerJoin(step, eq(step.id, movement.stepId))
    .leftJoin(batch, eq(batch.id, movement.batchId))
    .where(and(eq(movement.parcelId, there.id), eq(movement.direction, 'in'), inForce))
    .orderBy(movement.seq, movement.id);
  const where = taken
    .map((t) => `${formatMass(t.massMg, 'metric')} to ${t.station}${t.code ? ` of ${t.code}` : ''}`)
    .join(', ');
  throw new Problem({
    status: 409,
    code: 'oversubscribed',
    field: 'massMg',
    detail:
      `only ${formatMass(there.remainingMg, 'metric')} of these ${there.material} is there, ` +
      `${formatMass(-deltaMg, 'metric')} is asked for${where ? `; taken so far: ${where}` : ''}`,
    params: { thereMg: there.remainingMg, askedMg: -deltaMg, material: there.material, taken },
  });
}

/** Puts a new line in the place of an old one; the old stays readable. */
export async function replaceMovement(
  context: Context,
  old: MovementRow,
  change: Partial<MovementRow>,
): Promise<MovementRow> {
  const next: MovementRow = {
    ...old,
    ...change,
    id: change.id ?? context.newId(),
    seq: context.seq,
    by: context.by,
    // It is known better now; when it was weighed stays what it was.
    at: old.at,
    replaces: old.id,
    replacedBy: null,
    voided: false,
  };
  if (isDerivedOutput(old)) context.rows.drop(derivedOutputOf(old.stepId));
  await addMovements(context, [next]);
  await context.rows.set(movement, old, { replacedBy: next.id });
  return next;
}

/**
 * More or less has come into a parcel than was thought. Where a later step took all there was, it took
 * that much more or less, and its own balance follows; otherwise what is left changes.
 */
export async function correctParcel(
  context: Context,
  parcelId: string,
  deltaMg: number,
  deltaCount: number | null = null,
): Promise<void> {
  if (deltaMg === 0 && !deltaCount) return;
  const [follower] = await context.tx
    .select()
    .from(movement)
    .where(
      and(
        eq(movement.parcelId, parcelId),
        eq(movement.direction, 'in'),
        eq(movement.source, 'derived'),
        inForce,
      ),
    );
  if (!follower) return changeParcel(context, parcelId, deltaMg, deltaCount);
  const massMg = follower.massMg + deltaMg;
  const count = follower.count === null ? null : follower.count + (deltaCount ?? 0);
  if (massMg <= 0) {
    throw new Problem({
      status: 409,
      code: 'nothing-left',
      field: 'massMg',
      detail: 'nothing would be left for the step that took the rest of this parcel; void that step first',
    });
  }
  await replaceMovement(context, follower, {
    massMg,
    count,
    correctionReason: 'follows an earlier correction',
  });
  await rebalance(context, follower.stepId);
}

/**
 * Brings a step back into balance after one of its lines has changed: a derived output takes what the
 * balance leaves; a closed step's remainder does so otherwise.
 */
export async function rebalance(context: Context, stepId: string): Promise<void> {
  const row = await getStep(context, stepId);
  if (!(await balanceIsFollowed(context, row))) return;
  const lines = await movementsOfStep(context, stepId);
  const derivedOut = lines.find((m) => m.direction === 'out' && m.source === 'derived');
  const remainder = lines.find((m) => m.direction === 'loss' && m.source === 'derived');
  const follower = derivedOut ?? remainder;
  const sum = (wanted: Movement['direction']) =>
    lines.reduce((t, m) => t + (m.direction === wanted && m.id !== follower?.id ? m.massMg : 0), 0);
  const rest = sum('in') - sum('out') - sum('loss');
  if (derivedOut) {
    const delta = rest - derivedOut.massMg;
    if (delta === 0) return;
    if (rest <= 0) {
      throw new Problem({
        status: 409,
        code: 'more-out-than-in',
        field: 'massMg',
        detail: `more would come out of ${row.station} than went in, by ${formatMass(-rest, 'metric')}`,
      });
    }
    await replaceMovement(context, derivedOut, {
      massMg: rest,
      correctionReason: 'follows an earlier correction',
    });
    await correctParcel(context, derivedOut.parcelId!, delta);
  } else if (row.status === 'closed' && row.kind !== 'receive') {
    await setRemainder(context, row, remainder ?? null, rest);
  }
}

async function setRemainder(
  context: Context,
  row: typeof step.$inferSelect,
  old: MovementRow | null,
  rest: number,
): Promise<void> {
  if (old?.massMg === rest || (!old && rest === 0)) return;
  const reason = rest < 0 || !old ? 'unexplained' : old.reason;
  if (old && rest === 0) {
    await context.tx.update(movement).set({ voided: true }).where(eq(movement.id, old.id));
  } else if (old) {
    await replaceMovement(context, old, {
      massMg: rest,
      reason,
      correctionReason: 'follows an earlier correction',
    });
  } else {
    await context.tx
      .insert(movement)
      .values(remainderRow(context, row, rest, 'unexplained', context.newId()));
  }
}

/** The line that closes a step's balance. */
export function remainderRow(
  context: Context,
  row: { id: string; batchId: string | null },
  massMg: number,
  reason: string,
  id: string,
) {
  return {
    id,
    stepId: row.id,
    batchId: row.batchId,
    direction: 'loss' as const,
    massMg,
    source: 'derived' as const,
    reason,
    at: context.at,
    by: context.by,
    seq: context.seq,
  };
}
