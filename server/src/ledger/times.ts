import { and, eq, inArray, isNotNull, lt, or } from 'drizzle-orm';
import { StepTimes } from '@wunsch/contract';
import { BEANS_OUT } from '@wunsch/core/roast';
import { handler, MAKERS, type Context } from '../commands/command.ts';
import { movement, observation, parcel, step } from '../db/schema/index.ts';
import { Problem } from '../http/problem.ts';
import { getStep, inForce, type MovementRow } from './parcels.ts';
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
    await moveTo(context, row, { ...body.was, notesToo: body.notesToo }, seq!);
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
 * Moves a step's times, and with them the lines it began and ended with.
 *
 * @param upTo the entry that is undone: what was weighed after it stays; a weight put right since is the one that was moved
 */
async function moveTo(
  context: Context,
  row: StepRow,
  to: { startedAt: string; endedAt: string | null; notesToo?: boolean | undefined },
  upTo?: number,
): Promise<void> {
  const { tx } = context;
  const lines = await tx
    .select()
    .from(movement)
    .where(
      and(
        eq(movement.stepId, row.id),
        inForce,
        upTo === undefined ? undefined : or(lt(movement.seq, upTo), isNotNull(movement.replaces)),
      ),
    );
  const into = lines.filter((l) => l.direction === 'in');
  await moveLines(context, into, { end: 'startedAt', from: row.startedAt, to: to.startedAt });
  if (row.endedAt && to.endedAt) {
    const out = lines.filter((l) => l.direction !== 'in');
    const moved = await moveLines(context, out, { end: 'endedAt', from: row.endedAt, to: to.endedAt });
    const byMs = Date.parse(to.endedAt) - Date.parse(row.endedAt);
    const made = moved.flatMap((l) => l.parcelId ?? []);
    const parcels = await tx
      .select({ id: parcel.id, madeAt: parcel.madeAt })
      .from(parcel)
      .where(and(inArray(parcel.id, made), eq(parcel.stepId, row.id)));
    for (const { id, madeAt } of parcels)
      await tx
        .update(parcel)
        .set({ madeAt: shifted(madeAt, byMs) })
        .where(eq(parcel.id, id));
    if (to.notesToo) await moveBeansOut(context, row, { byMs, upTo });
  }
  await tx
    .update(step)
    .set({ startedAt: to.startedAt, endedAt: to.endedAt, version: row.version + 1 })
    .where(eq(step.id, row.id));
}

/** Moves the word that beans are out along with the end of their roast. */
async function moveBeansOut(
  { tx }: Context,
  { id: stepId, endedAt }: StepRow,
  { byMs, upTo }: { byMs: number; upTo: number | undefined },
): Promise<void> {
  const notes = await tx
    .select({ id: observation.id, at: observation.at, data: observation.data })
    .from(observation)
    .where(
      and(
        eq(observation.stepId, stepId),
        eq(observation.kind, 'event'),
        eq(observation.voided, false),
        upTo === undefined ? undefined : lt(observation.seq, upTo),
      ),
    );
  for (const { id, at, data } of notes)
    if (
      (data as { name?: string }).name === BEANS_OUT &&
      Math.abs(Date.parse(at) - Date.parse(endedAt!)) <= TOGETHER
    )
      await tx
        .update(observation)
        .set({ at: shifted(at, byMs) })
        .where(eq(observation.id, id));
}

/**
 * Moves those lines of a step that lie at one of its ends along with it. The others stay, and must still lie between: a step cannot begin after, or
 * end before, what was weighed while it ran.
 *
 * @throws Problem 422 `weighed-before` or `weighed-after` where one would not
 */
async function moveLines(
  { tx }: Context,
  lines: readonly MovementRow[],
  { end, from, to }: { end: 'startedAt' | 'endedAt'; from: string; to: string },
): Promise<readonly MovementRow[]> {
  const byMs = Date.parse(to) - Date.parse(from);
  if (byMs === 0) return [];
  const isStart = end === 'startedAt';
  /** How far a line lies inside of the step from one of its ends, ms. */
  const inside = (line: MovementRow, at: string) =>
    (Date.parse(line.at) - Date.parse(at)) * (isStart ? 1 : -1);
  const crossed = lines.find((l) => inside(l, from) > TOGETHER && inside(l, to) < TOGETHER);
  if (crossed)
    throw new Problem({
      status: 422,
      code: isStart ? 'weighed-before' : 'weighed-after',
      field: end,
      detail: isStart
        ? `more was weighed in at ${crossed.at}; a step begins before that`
        : `some of it was weighed out at ${crossed.at}; a step ends after that`,
      params: { at: crossed.at },
    });
  const moved = lines.filter((l) => inside(l, from) <= TOGETHER);
  for (const { id, at } of moved)
    await tx
      .update(movement)
      .set({ at: shifted(at, byMs) })
      .where(eq(movement.id, id));
  return moved;
}
