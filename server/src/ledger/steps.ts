import { and, desc, eq } from 'drizzle-orm';
import { z } from 'zod';
import { StepClose, StepPut, StepUpdate } from '@wunsch/contract';
import { stepBalance } from '@wunsch/core/ledger';
import { formatMass } from '@wunsch/core/quantity';
import { requireMatch } from '../access/handlers.ts';
import { handler, MAKERS, type Context } from '../commands/command.ts';
import { batch, machine, movement, observation, step } from '../db/schema/index.ts';
import { notFound, Problem } from '../formats/problem.ts';
import { compactReadings } from '../stations/roast/handlers.ts';
import { getStep, inForce, movementsOfStep, remainderRow, requireOpenBatch } from './parcels.ts';
import { voidMovement } from './movements.ts';

/** Opening a step at a station. */
export const stepOpen = handler({
  kind: 'step.open',
  body: StepPut,
  roles: MAKERS,
  async apply(context) {
    const { tx, target, body, at, by } = context;
    const [used] = await tx.select({ id: step.id }).from(step).where(eq(step.id, target));
    if (used)
      throw new Problem({
        status: 409,
        code: 'id-used',
        detail: `the id ${target} already names another step; make a new id`,
      });
    await requireOpenBatch(context, body.batchId);
    if (body.machineId) {
      const [there] = await tx.select({ id: machine.id }).from(machine).where(eq(machine.id, body.machineId));
      if (!there) throw notFound('machine', body.machineId);
    }
    await tx.insert(step).values({
      id: target,
      batchId: body.batchId,
      station: body.station,
      machineId: body.machineId,
      startedAt: body.startedAt ?? at,
      details: body.details,
      by,
    });
    return { batchId: body.batchId };
  },
  async undo(context, { target }) {
    await voidStep(context, target);
  },
});

/** Changing a step's details. */
export const stepUpdate = handler({
  kind: 'step.update',
  body: StepUpdate.extend({ ifMatch: z.int().nullable().default(null) }),
  roles: MAKERS,
  async apply(context) {
    const { tx, target, body } = context;
    const row = await getStep(context, target);
    requireMatch(body.ifMatch, row.version, 'step');
    await tx
      .update(step)
      .set({
        details: body.details,
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
  body: StepClose,
  roles: MAKERS,
  async apply(context) {
    const { tx, target, body, at } = context;
    const row = await getStep(context, target);
    await requireOpenBatch(context, row.batchId);
    if (row.status === 'closed')
      throw new Problem({ status: 409, code: 'already-closed', detail: 'this step is closed already' });
    const { differenceMg } = stepBalance(await movementsOfStep(context, target));
    if (differenceMg !== 0) {
      const gap = formatMass(Math.abs(differenceMg), 'metric');
      const params = { differenceMg };
      if (!body.remainder) {
        const detail =
          differenceMg > 0
            ? `${gap} went in and has not come out; weigh it, or name the loss it is`
            : `${gap} more came out than went in; check the weights, or name the difference "unexplained"`;
        throw new Problem({ status: 422, code: 'unbalanced', field: 'remainder', detail, params });
      }
      if (differenceMg < 0 && body.remainder !== 'unexplained') {
        const detail = `${gap} more came out than went in, which cannot be ${body.remainder}; check the weights, or name the difference "unexplained"`;
        throw new Problem({ status: 422, code: 'more-out-than-in', field: 'remainder', detail, params });
      }
      await tx
        .insert(movement)
        .values(remainderRow(context, row, differenceMg, body.remainder, body.remainderId));
    }
    await tx
      .update(step)
      .set({
        status: 'closed',
        endedAt: body.endedAt ?? at,
        handsOnMinutes: body.handsOnMinutes,
        version: row.version + 1,
      })
      .where(eq(step.id, target));
    await compactReadings(tx, target);
    return { batchId: row.batchId };
  },
  async undo(context, { target }) {
    const row = await getStep(context, target);
    const remainder = (await movementsOfStep(context, target)).find(
      (m) => m.direction === 'loss' && m.source === 'derived',
    );
    if (remainder)
      await context.tx.update(movement).set({ voided: true }).where(eq(movement.id, remainder.id));
    await context.tx
      .update(step)
      .set({ status: 'open', endedAt: null, version: row.version + 1 })
      .where(eq(step.id, target));
  },
});

/** Voiding a step that was a mistake: all it took goes back. */
export const stepVoid = handler({
  kind: 'step.void',
  body: z.object({ reason: z.string().max(400).default('') }),
  roles: MAKERS,
  async apply(context) {
    const row = await getStep(context, context.target);
    await requireOpenBatch(context, row.batchId);
    await voidStep(context, context.target);
    return { batchId: row.batchId };
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
      .where(and(eq(movement.parcelId, line.parcelId!), eq(movement.direction, 'in'), inForce))
      .limit(1);
    if (user) {
      const detail = `what came out of this step has been used at ${user.station}${user.code ? ` of ${user.code}` : ''}; void that first`;
      throw new Problem({ status: 409, code: 'used-later', detail, params: user });
    }
  }
  for (const line of [...lines].reverse()) await voidMovement(context, line);
  await tx.update(observation).set({ voided: true }).where(eq(observation.stepId, stepId));
  await tx.update(step).set({ voided: true }).where(eq(step.id, stepId));
}

/** The steps of a batch that count, last first. */
export async function stepsOfBatch(context: Context, batchId: string): Promise<(typeof step.$inferSelect)[]> {
  return context.tx
    .select()
    .from(step)
    .where(and(eq(step.batchId, batchId), eq(step.voided, false)))
    .orderBy(desc(step.startedAt), desc(step.id));
}
