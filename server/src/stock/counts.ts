import { eq } from 'drizzle-orm';
import { StockCount } from '@wunsch/contract';
import { handler, MAKERS, type Context } from '../commands/command.ts';
import { movement, step, stockCount } from '../db/schema/index.ts';
import { Problem } from '../http/problem.ts';
import { besideStep, parcelOf, type ParcelRow } from '../ledger/beside.ts';
import { voidMovement } from '../ledger/movements.ts';
import { changeParcel, movementsOfStep } from '../ledger/parcels.ts';

type Line = (typeof StockCount._output)['lines'][number];

/** What a piece of a counted parcel weighs; where none is left, what it weighed when it was made. */
async function pieceMg({ tx }: Context, row: ParcelRow): Promise<number> {
  if (row.count && row.remainingMg > 0) return row.remainingMg / row.count;
  const lines = await tx.select().from(movement).where(eq(movement.parcelId, row.id));
  const made = lines.find((m) => m.direction === 'out' && (m.count ?? 0) > 0);
  return made ? made.massMg / made.count! : 0;
}

/** How far what was found is from the books. */
async function differenceOf(
  context: Context,
  row: ParcelRow,
  line: Line,
): Promise<{ massMg: number; count: number | null }> {
  if (row.count === null) {
    if (line.foundMg === null)
      throw new Problem({
        status: 422,
        code: 'not-counted',
        field: 'foundCount',
        detail: `these ${row.material} are weighed, not counted; say what they weigh`,
      });
    return { massMg: line.foundMg - row.remainingMg, count: null };
  }
  if (line.foundCount === null)
    throw new Problem({
      status: 422,
      code: 'pieces',
      field: 'foundMg',
      detail: `these ${row.material} are counted; say how many pieces there are`,
    });
  const count = line.foundCount - row.count;
  // The last pieces take all of the mass with them.
  if (line.foundCount === 0) return { massMg: -row.remainingMg, count };
  const massMg = Math.round((await pieceMg(context, row)) * count);
  return { massMg, count };
}

/**
 * Taking stock. Each difference is a closed step of its own with its reason: what is missing leaves the books, what was found comes
 * back into them. Nothing is overwritten.
 */
export const stockCounted = handler({
  kind: 'stock.counted',
  version: 1,
  put: { path: '/api/stock-counts/:id', summary: 'Take stock of a place, parcel by parcel', tag: 'stock' },
  body: StockCount,
  roles: MAKERS,
  creates: true,
  touches: ['stock', 'batches', 'lots'],
  line: (body) => ({ place: body.place, lines: body.lines.length }),
  async apply(context) {
    const { tx, target, body, at, by } = context;
    if (new Set(body.lines.map((l) => l.parcelId)).size < body.lines.length)
      throw new Problem({
        status: 422,
        code: 'same-parcel',
        field: 'lines',
        detail: 'a parcel is named twice',
      });
    const kept: object[] = [];
    for (const [k, line] of body.lines.entries()) {
      const row = await parcelOf(context, line.parcelId);
      if (row.remainingMg !== line.expectedMg || (row.count ?? null) !== line.expectedCount)
        throw new Problem({
          status: 409,
          code: 'changed-since',
          field: `lines.${k}.expectedMg`,
          detail: `what the books say of these ${row.material}${row.label ? ` (${row.label})` : ''} has changed since they were counted; count them again`,
          params: { parcelId: row.id, thereMg: row.remainingMg, there: row.count },
        });
      const { massMg, count } = await differenceOf(context, row, line);
      kept.push({
        parcelId: row.id,
        expectedMg: row.remainingMg,
        expectedCount: row.count,
        massMg,
        count,
        reason: line.reason,
      });
      if (massMg === 0 && !count) continue;
      if (line.reason === null)
        throw new Problem({
          status: 422,
          code: 'reason-wanted',
          field: `lines.${k}.reason`,
          detail: 'something else was found than the books say: say why, or that nobody knows',
          params: { parcelId: row.id, massMg, count },
        });
      if (massMg === 0)
        throw new Problem({
          status: 422,
          code: 'pieces-unweighed',
          field: `lines.${k}.foundCount`,
          detail: 'nobody knows what these pieces weigh; weigh them in as something of their own',
        });
      const same = await besideStep(context, {
        id: line.stepId,
        kind: 'count',
        of: row,
        details: { countId: target, countReason: line.reason },
      });
      await changeParcel(context, row.id, massMg, count);
      const size = { massMg: Math.abs(massMg), count: count === null ? null : Math.abs(count) };
      await tx.insert(movement).values([
        {
          ...same,
          ...size,
          id: line.takenId,
          direction: massMg < 0 ? 'in' : 'out',
          source: row.count === null ? 'weighed' : 'counted',
          material: row.material,
          parcelId: row.id,
          label: row.label || null,
        },
        // Found is a loss taken back: the step comes out even either way.
        {
          ...same,
          id: line.lossId,
          direction: 'loss',
          massMg: -massMg,
          count: count === null ? null : -count,
          source: 'derived',
          reason: line.reason,
        },
      ]);
    }
    await tx.insert(stockCount).values({
      id: target,
      place: body.place,
      lines: kept,
      note: body.note,
      at,
      by,
    });
  },
  async undo(context, { target, body }) {
    const { tx } = context;
    for (const { stepId } of body.lines) {
      for (const line of await movementsOfStep(context, stepId)) await voidMovement(context, line);
      await tx.update(step).set({ voided: true }).where(eq(step.id, stepId));
    }
    await tx.update(stockCount).set({ voided: true }).where(eq(stockCount.id, target));
  },
});
