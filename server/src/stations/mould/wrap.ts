import { eq } from 'drizzle-orm';
import { BarsWrapped } from '@wunsch/contract';
import { handler, MAKERS } from '../../commands/command.ts';
import { movement, parcel, step, supply } from '../../db/schema/index.ts';
import { Problem } from '../../http/problem.ts';
import { parcelOf, requireFree, type ParcelRow } from '../../ledger/beside.ts';
import { changeParcel, takenFrom } from '../../ledger/parcels.ts';
import { voidStep } from '../../ledger/steps.ts';

function requireMaterial(row: ParcelRow, wanted: readonly string[], field: string): void {
  if (!wanted.includes(row.material))
    throw new Problem({
      status: 422,
      code: 'other-material',
      field,
      detail: `this parcel holds ${row.material}, not ${wanted.join(' or ')}`,
    });
}

/**
 * Bars are wrapped and boxed: they leave their parcel for boxes, each a parcel of its own; wrapping leaves its stock with them; broken ones
 * go to rework. One closed step of its own says all of it.
 */
export const barsWrapped = handler({
  kind: 'bars.wrapped',
  version: 1,
  put: {
    path: '/api/wrappings/:id',
    summary: 'Bars are wrapped and boxed, off the packaging stock',
    tag: 'mould',
  },
  body: BarsWrapped,
  roles: MAKERS,
  creates: true,
  touches: ['stock', 'batches'],
  line: (body) => ({ count: body.made.reduce((sum, m) => sum + m.count, 0), boxes: body.made.length }),
  async apply(context) {
    const { tx, target, body, at, by, seq } = context;
    const bars = await parcelOf(context, body.parcelId);
    requireMaterial(bars, ['bars', 'blocks'], 'parcelId');
    requireFree(bars);
    const outs = [...body.made, ...(body.broken ? [{ ...body.broken, label: '', place: '' }] : [])];
    const count = outs.reduce((sum, o) => sum + o.count, 0);
    const taken = takenFrom(bars, { massMg: null, count });
    await changeParcel(context, bars.id, -taken.massMg, -count);
    const when = body.at ?? at;
    await tx.insert(step).values({
      id: target,
      batchId: bars.batchId,
      station: 'mould',
      kind: 'wrap',
      status: 'closed',
      startedAt: when,
      endedAt: when,
      handsOnMinutes: body.handsOnMinutes,
      details: body.details,
      by,
    });
    const line = { stepId: target, batchId: bars.batchId, at: when, by, seq, source: 'counted' } as const;
    const lines: (typeof movement.$inferInsert)[] = [
      {
        ...line,
        id: body.takenId,
        direction: 'in',
        massMg: taken.massMg,
        count,
        material: bars.material,
        parcelId: bars.id,
        label: bars.label,
      },
    ];
    // Whole milligrams: the last parcel takes what rounding leaves.
    let leftMg = taken.massMg;
    let leftCount = count;
    for (const out of outs) {
      const massMg = out.count === leftCount ? leftMg : Math.round((leftMg * out.count) / leftCount);
      leftMg -= massMg;
      leftCount -= out.count;
      const material = out.parcelId === body.broken?.parcelId ? 'rework' : bars.material;
      await tx.insert(parcel).values({
        id: out.parcelId,
        material,
        label: out.label,
        batchId: bars.batchId,
        stepId: target,
        remainingMg: massMg,
        count: material === 'rework' ? null : out.count,
        place: out.place || bars.place,
        madeAt: when,
      });
      lines.push({
        ...line,
        id: out.movementId,
        direction: 'out',
        massMg,
        count: material === 'rework' ? null : out.count,
        material,
        parcelId: out.parcelId,
        label: out.label || null,
      });
    }
    for (const used of body.packaging) {
      const from = await parcelOf(context, used.parcelId);
      requireMaterial(from, ['packaging'], 'packaging');
      const [price] = await tx
        .select({ perKg: supply.pricePerKg })
        .from(supply)
        .where(eq(supply.parcelId, from.id));
      const piece = takenFrom(from, { massMg: null, count: used.count });
      await changeParcel(context, from.id, -piece.massMg, -used.count);
      const same = { ...line, massMg: piece.massMg, count: used.count };
      lines.push(
        {
          ...same,
          id: used.takenId,
          direction: 'in',
          material: from.material,
          parcelId: from.id,
          label: from.label,
          pricePerKg: price?.perKg ?? null,
        },
        { ...same, id: used.lossId, direction: 'loss', source: 'derived', reason: 'packaging' },
      );
    }
    await tx.insert(movement).values(lines);
    return { batchId: bars.batchId };
  },
  async undo(context, { target }) {
    await voidStep(context, target);
  },
});
