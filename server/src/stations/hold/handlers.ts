import { and, eq } from 'drizzle-orm';
import { HoldBegin, ObservationPut } from '@wunsch/contract';
import { handler, lineOf, MAKERS, type Context } from '../../commands/command.ts';
import { lot, observation } from '../../db/schema/index.ts';
import { notFound, Problem } from '../../http/problem.ts';
import { addObservation } from '../../ledger/observations.ts';

/** Holds a lot, or lets it go. */
async function setHold(
  { tx }: Context,
  row: typeof lot.$inferSelect,
  hold: { onHold: boolean; holdReason: string },
): Promise<void> {
  await tx
    .update(lot)
    .set({ ...hold, version: row.version + 1 })
    .where(eq(lot.id, row.id));
}

async function lotOf({ tx }: Context, id: string): Promise<typeof lot.$inferSelect> {
  const [row] = await tx
    .select()
    .from(lot)
    .where(and(eq(lot.id, id), eq(lot.voided, false)));
  if (!row) throw notFound('lot', id);
  return row;
}

/** A pest hold begins: planned and held in one act. */
export const holdBegin = handler({
  kind: 'hold.begin',
  version: 1,
  put: { path: '/api/holds/:id', summary: 'Begin a pest hold: its plan, and the lot held', tag: 'hold' },
  body: HoldBegin,
  roles: MAKERS,
  creates: true,
  touches: ['lots', 'stock', 'batches', 'observations'],
  line: lineOf('method', 'reason'),
  async apply(context) {
    const { lotId, reason, wasOnHold, ...plan } = context.body;
    const row = await lotOf(context, lotId);
    if (row.onHold !== wasOnHold)
      throw new Problem({
        status: 409,
        code: 'changed-since',
        detail: row.onHold
          ? 'somebody has put this lot on hold meanwhile; look at it again'
          : 'somebody has released this lot meanwhile; look at it again',
      });
    await addObservation(
      context,
      context.target,
      ObservationPut.parse({ lotId, data: { kind: 'hold', ...plan } }),
    );
    if (!row.onHold) await setHold(context, row, { onHold: true, holdReason: reason });
  },
  async undo(context, { target, body }) {
    await context.tx.update(observation).set({ voided: true }).where(eq(observation.id, target));
    const row = await lotOf(context, body.lotId);
    if (!body.wasOnHold && row.onHold) await setHold(context, row, { onHold: false, holdReason: '' });
  },
});
