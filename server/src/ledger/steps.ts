import { and, desc, eq } from 'drizzle-orm';
import { z } from 'zod';
import { StepClose, StepPut, StepUpdate, strayDetails, workOf } from '@wunsch/contract';
import { lossName, stepBalance, usualWork, type Station } from '@wunsch/core/ledger';
import { formatMass } from '@wunsch/core/quantity';
import { requireMatch } from '../access/match.ts';
import { handler, lineOf, MAKERS, withMatch, type Context, type Upcaster } from '../commands/command.ts';
import { batch, machine, movement, observation, parcel, step } from '../db/schema/index.ts';
import { notFound, Problem } from '../http/problem.ts';
import { compactReadings } from '../readings/handlers.ts';
import { getStep, inForce, movementsOfStep, remainderRow, requireOpenBatch } from './parcels.ts';
import { voidMovement } from './movements.ts';
import { restoreVoided } from './restore.ts';

/** The first release told grinding from conching by a word among the details. */
const kindForWork: Upcaster = (body) => {
  const { work, ...details } = (body.details ?? {}) as Record<string, unknown>;
  const kind = work === 'conche' ? 'conche' : usualWork(body.station as Station);
  const stray = new Set(kind ? strayDetails(kind, details).map((d) => d.field) : []);
  return {
    ...body,
    ...(kind && { kind }),
    details: Object.fromEntries(Object.entries(details).filter(([name]) => !stray.has(name))),
  };
};

/** A change of details written by the first release, without the word that is now the step's kind. */
const withoutWork: Upcaster = (body) => {
  const { work: _, ...details } = (body.details ?? {}) as Record<string, unknown>;
  return { ...body, details, strays: 'drop' };
};

/** Opening a step at a station. */
export const stepOpen = handler({
  kind: 'step.open',
  version: 2,
  upcasters: { 1: kindForWork },
  put: { path: '/api/steps/:id', summary: 'Open a step at a station', tag: 'ledger' },
  body: StepPut,
  roles: MAKERS,
  creates: true,
  touches: ['batches'],
  line: lineOf('station', 'kind'),
  async apply(context) {
    const { target, body } = context;
    await openStep(context, target, { ...body, kind: workOf(body)! });
    return { batchId: body.batchId };
  },
  async undo(context, { target }) {
    await voidStep(context, target);
  },
});

/** @throws Problem 404 where there is no such machine */
export async function requireMachine({ tx }: Pick<Context, 'tx'>, id: string): Promise<void> {
  const [there] = await tx.select({ id: machine.id }).from(machine).where(eq(machine.id, id));
  if (!there) throw notFound('machine', id);
}

/**
 * Opens a step of a batch, now if no other time is given.
 *
 * @throws Problem 404 for an unknown batch or machine, 409 where the batch is over
 */
export async function openStep(
  context: Context,
  id: string,
  {
    batchId,
    machineId,
    station,
    kind,
    startedAt,
    details,
  }: Pick<typeof step.$inferInsert, 'station' | 'kind' | 'details'> & {
    batchId: string;
    machineId: string | null;
    startedAt?: string | undefined;
  },
): Promise<void> {
  const { tx, at, by } = context;
  await requireOpenBatch(context, batchId);
  if (machineId) await requireMachine(context, machineId);
  await tx
    .insert(step)
    .values({ id, batchId, station, kind, machineId, startedAt: startedAt ?? at, details, by });
}

/**
 * What entries of releases before carry that took a step which ends before it begins: it stays as it was said. Nobody else says so.
 */
const BACKWARDS = { backwards: z.literal('keep').optional() };

/** Body of an act that ends a step, as it is journalled: see {@link BACKWARDS}. */
export const endingStep = <T extends z.ZodRawShape>(body: z.ZodObject<T>) =>
  z.object({ ...body.shape, ...BACKWARDS });

/** An entry of a release that did not ask whether the end comes after the beginning. */
export const keptBackwards: Upcaster = (body) => ({ ...body, backwards: 'keep' });

/** @throws Problem 422 `ends-before-begun` where a step would end before it began */
export function requireForwards(startedAt: string, endedAt: string, field: 'startedAt' | 'endedAt'): void {
  if (Date.parse(endedAt) < Date.parse(startedAt))
    throw new Problem({
      status: 422,
      code: 'ends-before-begun',
      field,
      detail: `a step that began at ${startedAt} can not have ended at ${endedAt}; check both times`,
    });
}

/** Changing a step's details. */
export const stepUpdate = handler({
  kind: 'step.update',
  version: 3,
  upcasters: { 1: withoutWork, 2: keptBackwards },
  put: {
    path: '/api/steps/:id/details',
    summary: 'Change a step’s details (If-Match)',
    tag: 'ledger',
    body: StepUpdate,
    guarded: true,
  },
  body: withMatch(StepUpdate).extend({
    /** Details that belong to another station: the first release took them, and they are left out when it is read back. */
    strays: z.enum(['refuse', 'drop']).default('refuse'),
    ...BACKWARDS,
  }),
  roles: MAKERS,
  touches: ['batches', 'runs', 'yields'],
  async apply(context) {
    const { tx, target, body } = context;
    const row = await getStep(context, target);
    requireMatch(body.ifMatch, row.version, 'step');
    if (body.startedAt && row.endedAt && body.backwards !== 'keep')
      requireForwards(body.startedAt, row.endedAt, 'startedAt');
    const strays = strayDetails(row.kind, body.details);
    const [stray] = strays;
    if (stray && body.strays === 'refuse')
      throw new Problem({
        status: 422,
        code: 'not-valid',
        field: `details.${stray.field}`,
        detail: stray.detail,
      });
    await tx
      .update(step)
      .set({
        details: Object.fromEntries(
          Object.entries(body.details).filter(([name]) => !strays.some((x) => x.field === name)),
        ),
        machineId: body.machineId === undefined ? row.machineId : body.machineId,
        startedAt: body.startedAt ?? row.startedAt,
        version: row.version + 1,
      })
      .where(eq(step.id, target));
    return { batchId: row.batchId };
  },
});

/** Closing a step: inputs equal outputs plus named losses, to the milligram. */
export const stepClose = handler({
  kind: 'step.close',
  version: 2,
  upcasters: { 1: keptBackwards },
  put: {
    path: '/api/steps/:id/close',
    summary: 'Close a step; inputs must equal outputs plus named losses',
    tag: 'ledger',
    body: StepClose,
  },
  body: endingStep(StepClose),
  roles: MAKERS,
  touches: ['batches', 'stock', 'lots', 'yields', 'runs', 'readings'],
  line: lineOf('remainder'),
  async apply(context) {
    const { batchId } = await closeStep(context, context.target, context.body);
    return { batchId };
  },
  async undo(context, { target }) {
    await reopenStep(context, target);
  },
});

/** What closing a step needs to be told. */
export type Closing = Pick<
  z.output<typeof StepClose>,
  'remainder' | 'remainderId' | 'handsOnMinutes' | 'endedAt'
> & { backwards?: 'keep' | undefined };

/**
 * Closes a step: inputs equal outputs plus named losses, to the milligram. Where nobody says when it ended that is now, or as it began: clocks differ.
 *
 * @returns the step as it is now
 * @throws Problem 422 `unbalanced` or `more-out-than-in` with the gap, `ends-before-begun` where it is said to
 */
export async function closeStep(context: Context, id: string, closing: Closing): Promise<StepRow> {
  const { tx, at } = context;
  const row = await getStep(context, id);
  await requireOpenBatch(context, row.batchId);
  if (row.status === 'closed')
    throw new Problem({ status: 409, code: 'already-closed', detail: 'this step is closed already' });
  if (closing.endedAt && closing.backwards !== 'keep')
    requireForwards(row.startedAt, closing.endedAt, 'endedAt');
  const endedAt = closing.endedAt ?? (Date.parse(at) > Date.parse(row.startedAt) ? at : row.startedAt);
  const { differenceMg } = stepBalance(await movementsOfStep(context, id));
  if (differenceMg !== 0) {
    const gap = formatMass(Math.abs(differenceMg), 'metric');
    const params = { differenceMg };
    if (!closing.remainder) {
      const detail =
        differenceMg > 0
          ? `${gap} went in and has not come out; weigh it, or name the loss it is`
          : `${gap} more came out than went in; check the weights, or name the difference "unexplained"`;
      throw new Problem({ status: 422, code: 'unbalanced', field: 'remainder', detail, params });
    }
    if (differenceMg < 0 && closing.remainder !== 'unexplained') {
      const detail = `${gap} more came out than went in, which cannot be ${closing.remainder}; check the weights, or name the difference "unexplained"`;
      throw new Problem({ status: 422, code: 'more-out-than-in', field: 'remainder', detail, params });
    }
    await tx
      .insert(movement)
      .values(remainderRow(context, row, differenceMg, lossName(closing.remainder), closing.remainderId));
  }
  await tx
    .update(step)
    .set({
      status: 'closed',
      endedAt,
      handsOnMinutes: closing.handsOnMinutes,
      version: row.version + 1,
    })
    .where(eq(step.id, id));
  await compactReadings(tx, id);
  return { ...row, endedAt };
}

/** Opens a closed step again and takes back the remainder that closed it. */
export async function reopenStep(context: Context, id: string): Promise<void> {
  const row = await getStep(context, id);
  const remainder = (await movementsOfStep(context, id)).find(
    (m) => m.direction === 'loss' && m.source === 'derived',
  );
  if (remainder) await context.tx.update(movement).set({ voided: true }).where(eq(movement.id, remainder.id));
  await context.tx
    .update(step)
    .set({ status: 'open', endedAt: null, version: row.version + 1 })
    .where(eq(step.id, id));
}

/** Voiding a step that was a mistake: all it took goes back. */
export const stepVoid = handler({
  kind: 'step.void',
  version: 1,
  put: { path: '/api/steps/:id/void', summary: 'Void a step; all it took goes back', tag: 'ledger' },
  touches: ['batches', 'stock', 'lots', 'yields', 'runs'],
  body: z.object({ reason: z.string().max(400).default('') }),
  roles: MAKERS,
  async apply(context) {
    const row = await getStep(context, context.target);
    await requireOpenBatch(context, row.batchId);
    await voidStep(context, context.target);
    return { batchId: row.batchId };
  },
  async undo(context, { target, batchId, seq }) {
    await requireOpenBatch(context, batchId);
    const back = await restoreVoided(context, seq!);
    if (!back.includes(target))
      throw new Problem({
        status: 409,
        code: 'not-undoable',
        detail: 'this step was taken out of the books by an older release; enter it anew',
      });
  },
});

/** Takes a step and its lines out of the books. Refused while its output is used elsewhere. */
export async function voidStep(context: Context, stepId: string): Promise<void> {
  const { tx } = context;
  const lines = await movementsOfStep(context, stepId);
  for (const line of lines.filter((m) => m.direction === 'out')) {
    const [user] = await tx
      .select({ station: step.station, code: batch.code })
      .from(movement)
      .innerJoin(step, eq(step.id, movement.stepId))
      .leftJoin(batch, eq(batch.id, movement.batchId))
      .innerJoin(parcel, and(eq(parcel.id, movement.parcelId), eq(parcel.stepId, stepId)))
      .where(and(eq(movement.parcelId, line.parcelId!), eq(movement.direction, 'in'), inForce))
      .limit(1);
    if (user) {
      const detail = `what came out of this step has been used at ${user.station}${user.code ? ` of ${user.code}` : ''}; void that first`;
      throw new Problem({ status: 409, code: 'used-later', detail, params: user });
    }
  }
  for (const line of [...lines].reverse()) await voidMovement(context, line);
  const gone = { voided: true, voidedBy: context.seq };
  await tx
    .update(observation)
    .set(gone)
    .where(and(eq(observation.stepId, stepId), eq(observation.voided, false)));
  await tx.update(step).set(gone).where(eq(step.id, stepId));
}

/** A step row as stored. */
export type StepRow = typeof step.$inferSelect;

/** The steps of a batch that count, last first. */
export async function stepsOfBatch(context: Context, batchId: string): Promise<StepRow[]> {
  return context.tx
    .select()
    .from(step)
    .where(and(eq(step.batchId, batchId), eq(step.voided, false)))
    .orderBy(desc(step.startedAt), desc(step.id));
}

/** The step, which must be of a kind. */
export async function requireKind(context: Context, id: string, kind: StepRow['kind']): Promise<StepRow> {
  const row = await getStep(context, id);
  if (row.kind !== kind)
    throw new Problem({
      status: 409,
      code: 'other-kind',
      detail: `this step is ${row.kind}, not ${kind}`,
      params: { kind: row.kind },
    });
  return row;
}
