import { and, eq } from 'drizzle-orm';
import { ParcelsHold, ParcelsJoin, ParcelsMove } from '@wunsch/contract';
import { handler, lineOf, MAKERS, type Context } from '../commands/command.ts';
import { movement, parcel, parcelHold, parcelMove } from '../db/schema/index.ts';
import { Problem } from '../http/problem.ts';
import { besideStep, parcelOf, requireFree, sourceOf, type ParcelRow } from '../ledger/beside.ts';
import { changeParcel, takenFrom } from '../ledger/parcels.ts';
import { voidStep } from '../ledger/steps.ts';

/** Deliveries of these are lots of their own: price, allergens and best before stand with the whole of it. */
const WHOLE: ReadonlySet<string> = new Set(['ingredient', 'packaging']);

function requireParts(row: ParcelRow): void {
  if (!WHOLE.has(row.material)) return;
  throw new Problem({
    status: 422,
    code: 'moved-whole',
    field: 'parcelId',
    detail: `a delivery of ${row.material} is moved whole, so that its price and best before stay with it`,
    params: { material: row.material },
  });
}

/** Moving parcels, or parts of them, to another place. */
export const parcelsMove = handler({
  kind: 'parcels.move',
  version: 1,
  put: { path: '/api/moves/:id', summary: 'Move parcels, or parts of them, to another place', tag: 'stock' },
  body: ParcelsMove,
  roles: MAKERS,
  creates: true,
  touches: ['stock', 'batches', 'lots'],
  line: (body) => ({ place: body.place, parcels: body.parcels.length }),
  async apply(context) {
    const { tx, target, body, at, by, seq } = context;
    let batchId: string | null = null;
    for (const wanted of body.parcels) {
      const row = await parcelOf(context, wanted.parcelId);
      batchId ??= row.batchId;
      const taken = takenFrom(row, wanted);
      if (taken.massMg === row.remainingMg) {
        await tx.insert(parcelMove).values({
          id: context.newId(),
          moveId: target,
          parcelId: row.id,
          fromPlace: row.place,
          toPlace: body.place,
          at,
          by,
          seq,
        });
        await tx.update(parcel).set({ place: body.place }).where(eq(parcel.id, row.id));
        continue;
      }
      requireParts(row);
      const part = wanted.part!;
      await changeParcel(context, row.id, -taken.massMg, taken.count === null ? null : -taken.count);
      const line = await besideStep(context, { id: part.stepId, kind: 'part', of: row });
      await tx.insert(parcel).values({
        ...row,
        id: part.parcelId,
        stepId: part.stepId,
        remainingMg: taken.massMg,
        count: taken.count,
        place: body.place,
      });
      const same = { ...line, ...taken, material: row.material, label: row.label || null } as const;
      await tx.insert(movement).values([
        { ...same, id: part.takenId, direction: 'in', source: sourceOf(wanted), parcelId: row.id },
        { ...same, id: part.madeId, direction: 'out', source: 'derived', parcelId: part.parcelId },
      ]);
    }
    return { batchId };
  },
  async undo(context, { target, body }) {
    const { tx } = context;
    for (const { part, massMg, count } of body.parcels)
      if (part && (massMg !== null || count !== null)) {
        const [line] = await tx.select().from(movement).where(eq(movement.id, part.madeId));
        if (line) await voidStep(context, part.stepId);
      }
    const moves = await tx
      .select()
      .from(parcelMove)
      .where(and(eq(parcelMove.moveId, target), eq(parcelMove.voided, false)));
    for (const move of moves) {
      const row = await parcelOf(context, move.parcelId);
      if (row.place !== move.toPlace)
        throw new Problem({
          status: 409,
          code: 'moved-since',
          detail: `this has been moved on to ${row.place || 'no place'} since; move it from there`,
        });
      await tx.update(parcel).set({ place: move.fromPlace }).where(eq(parcel.id, move.parcelId));
      await tx.update(parcelMove).set({ voided: true }).where(eq(parcelMove.id, move.id));
    }
  },
});

/** Putting parcels of the same thing together. */
export const parcelsJoin = handler({
  kind: 'parcels.join',
  version: 1,
  put: { path: '/api/joinings/:id', summary: 'Put parcels of the same thing together', tag: 'stock' },
  body: ParcelsJoin,
  roles: MAKERS,
  creates: true,
  touches: ['stock', 'batches', 'lots'],
  line: (body) => ({ parcels: body.parcels.length, label: body.label }),
  async apply(context) {
    const { tx, target, body } = context;
    const rows: ParcelRow[] = [];
    for (const { parcelId } of body.parcels) rows.push(await parcelOf(context, parcelId));
    const [first] = rows as [ParcelRow];
    requireParts(first);
    if (new Set(rows.map((r) => r.id)).size < rows.length)
      throw new Problem({
        status: 422,
        code: 'same-parcel',
        field: 'parcels',
        detail: 'a parcel is named twice',
      });
    rows.forEach(requireFree);
    const stray = rows.find(
      (r) =>
        r.material !== first.material ||
        r.batchId !== first.batchId ||
        r.lotId !== first.lotId ||
        (r.count === null) !== (first.count === null),
    );
    if (stray)
      throw new Problem({
        status: 422,
        code: 'not-the-same',
        field: 'parcels',
        detail: 'only what is of the same batch and kind is put together, so that every bar keeps its batch',
      });
    const line = await besideStep(context, { id: target, kind: 'part', of: first });
    let [massMg, count] = [0, 0];
    for (const [k, row] of rows.entries()) {
      const taken = takenFrom(row, { massMg: null, count: null });
      await changeParcel(context, row.id, -taken.massMg, taken.count === null ? null : -taken.count);
      await tx.insert(movement).values({
        ...line,
        ...taken,
        id: body.parcels[k]!.takenId,
        direction: 'in',
        source: 'derived',
        material: row.material,
        parcelId: row.id,
        label: row.label || null,
      });
      massMg += taken.massMg;
      count += taken.count ?? 0;
    }
    const pieces = first.count === null ? null : count;
    await tx.insert(parcel).values({
      ...first,
      id: body.parcelId,
      stepId: target,
      label: body.label || first.label,
      place: body.place || first.place,
      remainingMg: massMg,
      count: pieces,
      madeAt: rows.map((r) => r.madeAt).sort()[0]!,
    });
    await tx.insert(movement).values({
      ...line,
      id: body.madeId,
      direction: 'out',
      source: 'derived',
      massMg,
      count: pieces,
      material: first.material,
      parcelId: body.parcelId,
      label: body.label || first.label || null,
    });
    return { batchId: first.batchId };
  },
  async undo(context, { target }) {
    await voidStep(context, target);
  },
});

/** Sets parcels aside or lets them go, and keeps how it was. */
export async function holdParcels(
  context: Context,
  { holdId, parcelIds, onHold, reason }: ParcelsHold & { holdId: string },
): Promise<void> {
  const { tx, at, by } = context;
  for (const id of new Set(parcelIds)) {
    const row = await parcelOf(context, id);
    await tx.insert(parcelHold).values({
      id: context.newId(),
      holdId,
      parcelId: id,
      wasOnHold: row.onHold,
      wasReason: row.holdReason,
      at,
      by,
    });
    await tx
      .update(parcel)
      .set({ onHold, holdReason: onHold ? reason : '' })
      .where(eq(parcel.id, id));
  }
}

/** Puts parcels back as they were before they were set aside or let go. */
export async function unholdParcels({ tx }: Context, holdId: string): Promise<void> {
  for (const was of await tx.select().from(parcelHold).where(eq(parcelHold.holdId, holdId)))
    await tx
      .update(parcel)
      .set({ onHold: was.wasOnHold, holdReason: was.wasReason })
      .where(eq(parcel.id, was.parcelId));
  await tx.delete(parcelHold).where(eq(parcelHold.holdId, holdId));
}

/** Setting parcels aside, or letting them go. */
export const parcelsHold = handler({
  kind: 'parcels.hold',
  version: 1,
  put: {
    path: '/api/parcel-holds/:id',
    summary: 'Set parcels aside, or let them go, with the reason',
    tag: 'stock',
  },
  body: ParcelsHold,
  roles: MAKERS,
  creates: true,
  touches: ['stock', 'batches'],
  line: lineOf('onHold', 'reason'),
  async apply(context) {
    await holdParcels(context, { ...context.body, holdId: context.target });
  },
  async undo(context, { target }) {
    await unholdParcels(context, target);
  },
});
