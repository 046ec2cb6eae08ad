import { and, eq, gt, gte, inArray, isNotNull, lt, lte, ne, or } from 'drizzle-orm';
import { StepTimes } from '@wunsch/contract';
import { handler, MAKERS, type Context } from '../commands/command.ts';
import { movement, parcel, step } from '../db/schema/index.ts';
import { Problem } from '../http/problem.ts';
import { getStep, inForce } from './parcels.ts';
import { requireForwards, type StepRow } from './steps.ts';

/** What is weighed in so soon after a step began is what it began with, and out so soon before its end what it ended with, ms. */
const TOGETHER = 15 * 60_000;

/** A clock that runs a little ahead of the server's is believed, ms. */
const AHEAD = 60_000;

const shifted = (at: string, ms: number) => new Date(Date.parse(at) + ms).toISOString();

const instantOrNull = (at: string | null) => at && new Date(at).toISOString();

/** When a step really began and ended. */
export const stepTimes = handler({
  kind: 'step.times',
  version: 1,
  put: { path: '/api/steps/:id/times', summary: 'Say when a step really began and ended', tag: 'ledger' },
  body: StepTimes,
  roles: MAKERS,
  touches: ['batches', 'yields', 'runs', 'stock', 'lots'],
  async apply(context) {
    const { body } = context;
    const row = await getStep(context, context.target);
    requireAsSeen(row, body.was);
    if ((row.endedAt === null) !== (body.endedAt === null))
      throw new Problem({
        status: 422,
        code: 'not-ended',
        field: 'endedAt',
        detail: row.endedAt
          ? 'this step has ended; say when as well'
          : 'this step is still open; close it before saying when it ended',
      });
    if (body.endedAt) requireForwards(body.startedAt, body.endedAt, 'endedAt');
    if (Date.parse(body.endedAt ?? body.startedAt) > Date.parse(context.at) + AHEAD)
      throw new Problem({
        status: 422,
        code: 'in-future',
        field: body.endedAt ? 'endedAt' : 'startedAt',
        detail: `this is still to come; it can have been until ${context.at}`,
      });
    await moveTo(context, row, body);
    return { batchId: row.batchId };
  },
  async undo(context, { target, body, seq }) {
    const row = await getStep(context, target);
    requireAsSeen(row, body);
    await moveTo(context, row, body.was, seq!);
  },
});

/** @throws Problem 409 `changed-since` where a step's times are others by now */
function requireAsSeen(row: StepRow, seen: { startedAt: string; endedAt: string | null }): void {
  if (
    instantOrNull(row.startedAt) === instantOrNull(seen.startedAt) &&
    instantOrNull(row.endedAt) === instantOrNull(seen.endedAt)
  )
    return;
  throw new Problem({
    status: 409,
    code: 'changed-since',
    detail: 'the times of this step have been changed since; look at them again',
  });
}

/**
 * Moves a step's times, and with them the lines it began and ended with. Nothing else of it may lie outside of them then.
 *
 * @param upTo the entry that is undone: what was weighed after it stays; a weight put right since is the one that was moved
 */
async function moveTo(
  context: Context,
  row: StepRow,
  to: { startedAt: string; endedAt: string | null },
  upTo?: number,
): Promise<void> {
  const { tx } = context;
  const mine = and(
    eq(movement.stepId, row.id),
    inForce,
    upTo === undefined ? undefined : or(lt(movement.seq, upTo), isNotNull(movement.replaces)),
  );
  const begins = shifted(row.startedAt, TOGETHER);
  const byStart = Date.parse(to.startedAt) - Date.parse(row.startedAt);
  if (byStart !== 0) {
    const [later] = await tx
      .select({ at: movement.at })
      .from(movement)
      .where(
        and(
          mine,
          eq(movement.direction, 'in'),
          gt(movement.at, begins),
          lt(movement.at, shifted(to.startedAt, TOGETHER)),
        ),
      )
      .limit(1);
    if (later) throw crosses('startedAt', later.at, 'more was weighed in');
    const first = await tx
      .select({ id: movement.id, at: movement.at })
      .from(movement)
      .where(and(mine, eq(movement.direction, 'in'), lte(movement.at, begins)));
    for (const line of first) await setAt(context, line.id, shifted(line.at, byStart));
  }
  if (row.endedAt && to.endedAt) {
    const ends = shifted(row.endedAt, -TOGETHER);
    const byEnd = Date.parse(to.endedAt) - Date.parse(row.endedAt);
    if (byEnd !== 0) {
      const [sooner] = await tx
        .select({ at: movement.at })
        .from(movement)
        .where(
          and(
            mine,
            ne(movement.direction, 'in'),
            lt(movement.at, ends),
            gt(movement.at, shifted(to.endedAt, -TOGETHER)),
          ),
        )
        .limit(1);
      if (sooner) throw crosses('endedAt', sooner.at, 'some of it was weighed out');
      const last = await tx
        .select({ id: movement.id, at: movement.at, parcelId: movement.parcelId })
        .from(movement)
        .where(and(mine, ne(movement.direction, 'in'), gte(movement.at, ends)));
      for (const line of last) await setAt(context, line.id, shifted(line.at, byEnd));
      const made = last.flatMap((l) => l.parcelId ?? []);
      if (made.length > 0)
        for (const p of await tx
          .select({ id: parcel.id, madeAt: parcel.madeAt })
          .from(parcel)
          .where(and(inArray(parcel.id, made), eq(parcel.stepId, row.id))))
          await tx
            .update(parcel)
            .set({ madeAt: shifted(p.madeAt, byEnd) })
            .where(eq(parcel.id, p.id));
    }
  }
  await tx
    .update(step)
    .set({ startedAt: to.startedAt, endedAt: to.endedAt, version: row.version + 1 })
    .where(eq(step.id, row.id));
}

const setAt = ({ tx }: Context, id: string, at: string) =>
  tx.update(movement).set({ at }).where(eq(movement.id, id));

/** A step cannot begin after, or end before, what was weighed while it ran. */
const crosses = (field: 'startedAt' | 'endedAt', at: string, what: string) =>
  new Problem({
    status: 422,
    code: field === 'startedAt' ? 'weighed-before' : 'weighed-after',
    field,
    detail: `${what} at ${at}; a step ${field === 'startedAt' ? 'begins before' : 'ends after'} that`,
    params: { at },
  });
