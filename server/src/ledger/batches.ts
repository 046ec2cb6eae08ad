import { and, eq, ne, sql } from 'drizzle-orm';
import { BatchPut, BatchState, BatchUpdate } from '@wunsch/contract';
import { requireMatch } from '../access/match.ts';
import { saidBefore } from '../commands/before.ts';
import { handler, lineOf, MAKERS, withMatch, type Context } from '../commands/command.ts';
import {
  batch,
  delivery,
  deliveryLine,
  lot,
  movement,
  parcel,
  recipe,
  step,
  trail,
} from '../db/schema/index.ts';
import { notFound, Problem } from '../http/problem.ts';
import { voidMovement } from './movements.ts';
import { inForce } from './parcels.ts';
import { requireKnownVoids, restoreVoided } from './restore.ts';
import { stepsOfBatch, voidStep } from './steps.ts';

async function refuseTakenCode({ tx, target }: Context, code: string): Promise<void> {
  const [same] = await tx
    .select({ id: batch.id })
    .from(batch)
    .where(and(sql`lower(${batch.code}) = lower(${code})`, ne(batch.id, target), ne(batch.state, 'void')));
  if (same) throw codeTaken(code);
}

/** That a code stands on another batch. */
export const codeTaken = (code: string): Problem =>
  new Problem({
    status: 409,
    code: 'code-taken',
    field: 'code',
    detail: `there is already a batch ${code}; take another code`,
  });

async function getBatch({ tx }: Context, id: string): Promise<typeof batch.$inferSelect> {
  const [row] = await tx.select().from(batch).where(eq(batch.id, id));
  if (!row) throw notFound('batch', id);
  return row;
}

async function requireRecipe({ tx }: Context, id: string | null): Promise<void> {
  if (!id) return;
  const [there] = await tx.select({ id: recipe.id }).from(recipe).where(eq(recipe.id, id));
  if (!there) throw notFound('recipe', id);
}

/** Starting a batch from a lot. */
export const batchStart = handler({
  kind: 'batch.start',
  version: 1,
  put: { path: '/api/batches/:id', summary: 'Start a batch from a lot', tag: 'ledger' },
  body: BatchPut,
  roles: MAKERS,
  creates: true,
  touches: ['batches', 'lots', 'stock'],
  line: lineOf('code'),
  async apply(context) {
    const { tx, target, body, at, by } = context;
    const [from] = await tx
      .select({ id: lot.id, voided: lot.voided })
      .from(lot)
      .where(eq(lot.id, body.lotId));
    if (!from || from.voided) throw notFound('lot', body.lotId);
    await refuseTakenCode(context, body.code);
    await requireRecipe(context, body.recipeId);
    await tx.insert(batch).values({
      id: target,
      code: body.code,
      lotId: body.lotId,
      recipeId: body.recipeId,
      plannedMg: body.plannedMg,
      barMg: body.barMg,
      route: body.route,
      startedAt: body.startedAt ?? at,
      by,
    });
    return { batchId: target };
  },
  async undo(context, { target }) {
    await voidBatch(context, target, 'taken back');
  },
});

/** Changing a batch's code, plan or recipe. */
export const batchUpdate = handler({
  kind: 'batch.update',
  version: 1,
  put: {
    path: '/api/batches/:id/facts',
    summary: 'Change a batch’s code, plan, recipe or route (If-Match)',
    tag: 'ledger',
    body: BatchUpdate,
    guarded: true,
  },
  body: withMatch(BatchUpdate),
  roles: MAKERS,
  touches: ['batches', 'lots'],
  line: lineOf('code'),
  async apply(context) {
    const { tx, target, body } = context;
    const { ifMatch, ...facts } = body;
    const row = await getBatch(context, target);
    requireMatch(ifMatch, row.version, 'batch');
    await refuseTakenCode(context, facts.code);
    await requireRecipe(context, facts.recipeId);
    await tx
      .update(batch)
      .set({ ...facts, version: row.version + 1 })
      .where(eq(batch.id, target));
    return { batchId: target };
  },
});

/** Finishing, reopening, voiding or abandoning a batch. */
export const batchState = handler({
  kind: 'batch.state',
  version: 1,
  put: {
    path: '/api/batches/:id/state',
    summary: 'Finish, reopen, void or abandon a batch',
    tag: 'ledger',
  },
  body: BatchState,
  roles: MAKERS,
  touches: ['batches', 'lots', 'stock', 'yields', 'runs'],
  line: lineOf('state', 'reason'),
  async apply(context) {
    const { tx, target, body } = context;
    const row = await getBatch(context, target);
    if (row.state === 'void')
      throw new Problem({
        status: 409,
        code: 'batch-void',
        detail: `batch ${row.code} is void; start a new one`,
      });
    if (row.state === 'abandoned' && body.state === 'open') {
      throw new Problem({
        status: 409,
        code: 'batch-abandoned',
        detail: `batch ${row.code} was abandoned and its material written off; start a new one`,
      });
    }
    if (body.state === 'void') await voidBatch(context, target, body.reason);
    else {
      if (body.state === 'abandoned') await writeOff(context, row);
      await tx
        .update(batch)
        .set({ state: body.state, stateReason: body.reason, version: row.version + 1 })
        .where(eq(batch.id, target));
    }
    return { batchId: target };
  },
  async undo(context, { target, body, seq }) {
    const { tx } = context;
    const row = await getBatch(context, target);
    if (row.state !== body.state)
      throw new Problem({
        status: 409,
        code: 'not-undoable',
        detail: `batch ${row.code} is ${row.state} by now`,
      });
    if (body.state === 'void') {
      await refuseTakenCode(context, row.code);
      await requireKnownVoids(context, target);
      await restoreVoided(context, seq!);
    }
    if (body.state === 'abandoned') await takeWriteOffBack(context, target, seq!);
    const state = await stateBefore(context, target, seq!);
    await tx
      .update(batch)
      .set({ state, stateReason: '', version: row.version + 1 })
      .where(eq(batch.id, target));
  },
});

/** What a batch was before an entry said otherwise. */
async function stateBefore(context: Context, batchId: string, seq: number): Promise<BatchState['state']> {
  const before = await saidBefore(context, { kind: 'batch.state', target: batchId, seq });
  return BatchState.safeParse(before).data?.state ?? 'open';
}

async function voidBatch(context: Context, batchId: string, reason: string): Promise<void> {
  const { tx } = context;
  const row = await getBatch(context, batchId);
  const [elsewhere] = await tx
    .select({ code: batch.code })
    .from(movement)
    .innerJoin(parcel, eq(parcel.id, movement.parcelId))
    .innerJoin(batch, eq(batch.id, movement.batchId))
    .where(
      and(eq(parcel.batchId, batchId), eq(movement.direction, 'in'), ne(movement.batchId, batchId), inForce),
    )
    .limit(1);
  if (elsewhere) {
    throw new Problem({
      status: 409,
      code: 'used-later',
      detail: `material of ${row.code} has gone into batch ${elsewhere.code}; void that first`,
      params: { code: elsewhere.code },
    });
  }
  const [sold] = await tx
    .select({ number: delivery.number })
    .from(deliveryLine)
    .innerJoin(delivery, and(eq(delivery.id, deliveryLine.deliveryId), eq(delivery.voided, false)))
    .innerJoin(parcel, and(eq(parcel.id, deliveryLine.parcelId), eq(parcel.batchId, batchId)))
    .limit(1);
  if (sold)
    throw new Problem({
      status: 409,
      code: 'delivered',
      detail: `bars of ${row.code} have gone out with delivery ${sold.number}; take that back first`,
      params: { number: sold.number },
    });
  // Last made first, so that nothing is voided while a later step of the batch still holds it.
  const left = await stepsOfBatch(context, batchId);
  while (left.length > 0) {
    const next = await firstUnused(context, left);
    await voidStep(context, next.id);
    left.splice(left.indexOf(next), 1);
  }
  await tx
    .update(batch)
    .set({ state: 'void', stateReason: reason, version: row.version + 1 })
    .where(eq(batch.id, batchId));
}

async function firstUnused(
  { tx }: Context,
  steps: (typeof step.$inferSelect)[],
): Promise<typeof step.$inferSelect> {
  for (const candidate of steps) {
    const [user] = await tx
      .select({ id: movement.id })
      .from(movement)
      .innerJoin(parcel, eq(parcel.id, movement.parcelId))
      .where(and(eq(parcel.stepId, candidate.id), eq(movement.direction, 'in'), inForce))
      .limit(1);
    if (!user) return candidate;
  }
  return steps[0]!;
}

/** Gives back what {@link writeOff} took, and opens the steps again that it closed. */
async function takeWriteOffBack(context: Context, batchId: string, seq: number): Promise<void> {
  const { tx } = context;
  const lines = await tx
    .select({ movement, kind: step.kind })
    .from(movement)
    .innerJoin(step, eq(step.id, movement.stepId))
    .where(and(eq(movement.batchId, batchId), eq(movement.seq, seq), inForce));
  const writeOffs = lines.filter((l) => l.kind === 'write-off').map((l) => l.movement.stepId);
  for (const id of new Set(writeOffs)) await voidStep(context, id);
  for (const line of lines) if (line.kind !== 'write-off') await voidMovement(context, line.movement);
  const [entry] = await tx.select({ at: trail.at }).from(trail).where(eq(trail.seq, seq));
  await tx
    .update(step)
    .set({ status: 'open', endedAt: null, version: sql`${step.version} + 1` })
    .where(
      and(
        eq(step.batchId, batchId),
        eq(step.voided, false),
        eq(step.status, 'closed'),
        eq(step.endedAt, entry!.at),
      ),
    );
}

/** Everything a batch still holds leaves the books as a loss named `abandoned`. */
async function writeOff(context: Context, row: typeof batch.$inferSelect): Promise<void> {
  const { tx, at, by, seq } = context;
  const held = await tx
    .select()
    .from(parcel)
    .where(and(eq(parcel.batchId, row.id), sql`${parcel.remainingMg} > 0`));
  const open = (await stepsOfBatch(context, row.id)).filter((s) => s.status === 'open');
  for (const s of open) {
    const lines = await tx
      .select()
      .from(movement)
      .where(and(eq(movement.stepId, s.id), inForce));
    const rest = lines.reduce((sum, m) => sum + (m.direction === 'in' ? m.massMg : -m.massMg), 0);
    if (rest !== 0) {
      await tx.insert(movement).values({
        id: context.newId(),
        stepId: s.id,
        batchId: row.id,
        direction: 'loss',
        massMg: rest,
        source: 'derived',
        reason: rest > 0 ? 'abandoned' : 'unexplained',
        at,
        by,
        seq,
      });
    }
    await tx
      .update(step)
      .set({ status: 'closed', endedAt: at, version: s.version + 1 })
      .where(eq(step.id, s.id));
  }
  for (const p of held) {
    const stepId = context.newId();
    const station =
      (await tx.select({ station: step.station }).from(step).where(eq(step.id, p.stepId)))[0]?.station ??
      'sort';
    await tx.insert(step).values({
      id: stepId,
      batchId: row.id,
      station,
      kind: 'write-off',
      status: 'closed',
      startedAt: at,
      endedAt: at,
      by,
    });
    const line = {
      stepId,
      batchId: row.id,
      massMg: p.remainingMg,
      count: p.count,
      material: p.material,
      label: p.label,
      at,
      by,
      seq,
    };
    await tx.insert(movement).values([
      { ...line, id: context.newId(), direction: 'in', source: 'derived', parcelId: p.id },
      {
        ...line,
        id: context.newId(),
        direction: 'loss',
        source: 'estimated',
        reason: 'abandoned',
        parcelId: null,
      },
    ]);
    await tx
      .update(parcel)
      .set({ remainingMg: 0, ...(p.count !== null && { count: 0 }) })
      .where(eq(parcel.id, p.id));
  }
}
