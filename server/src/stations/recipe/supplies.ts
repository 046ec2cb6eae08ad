import { asc, eq } from 'drizzle-orm';
import { z } from 'zod';
import { Supply, SupplyFacts, SupplyPut } from '@wunsch/contract';
import { requireMatch } from '../../access/match.ts';
import { handler, lineOf, MAKERS, withMatch } from '../../commands/command.ts';
import { ingredient, parcel, supply } from '../../db/schema/index.ts';
import { notFound } from '../../http/problem.ts';
import type { App } from '../../http/types.ts';
import { arrive } from '../../ledger/arrive.ts';
import { voidStep } from '../../ledger/steps.ts';

/** Receiving a delivery of an ingredient or of packaging: a parcel of its own in the ledger. */
export const supplyReceive = handler({
  kind: 'supply.receive',
  version: 1,
  put: {
    path: '/api/supplies/:id',
    summary: 'Receive a delivery of an ingredient or of packaging',
    tag: 'recipe',
  },
  body: SupplyPut,
  roles: MAKERS,
  creates: true,
  touches: ['stock', 'ingredients'],
  line: lineOf('name', 'massMg', 'count'),
  async apply(context) {
    const { tx, target, body, at } = context;
    if (body.ingredientId) {
      const [known] = await tx
        .select({ id: ingredient.id })
        .from(ingredient)
        .where(eq(ingredient.id, body.ingredientId));
      if (!known) throw notFound('ingredient', body.ingredientId);
    }
    const { stepId, movementId, parcelId, massMg, count, ...facts } = body;
    await tx.insert(supply).values({
      id: target,
      ...facts,
      arrivedMg: massMg,
      arrivedCount: count,
      parcelId,
      stepId,
      createdAt: at,
    });
    await arrive(context, {
      stepId,
      movementId,
      parcelId,
      massMg,
      count,
      station: 'recipe',
      material: body.ingredientId ? 'ingredient' : 'packaging',
      label: body.name,
      place: body.place,
      receivedOn: body.receivedOn,
      ingredientId: body.ingredientId,
      pricePerKg: body.pricePerKg,
    });
  },
  async undo(context, { target, body }) {
    await voidStep(context, body.stepId);
    await context.tx.delete(supply).where(eq(supply.id, target));
  },
});

/** Changing what is known of a delivery; its mass and price are corrected in the ledger. */
export const supplyUpdate = handler({
  kind: 'supply.update',
  version: 1,
  put: {
    path: '/api/supplies/:id/facts',
    summary: 'Change what is known of a delivery (If-Match)',
    tag: 'recipe',
    body: SupplyFacts,
    guarded: true,
  },
  body: withMatch(SupplyFacts),
  roles: MAKERS,
  touches: ['stock', 'ingredients'],
  line: lineOf('supplierLot'),
  async apply({ tx, target, body: { ifMatch, ...facts } }) {
    const [old] = await tx.select().from(supply).where(eq(supply.id, target));
    if (!old) throw notFound('delivery', target);
    requireMatch(ifMatch, old.version, 'delivery');
    await tx
      .update(supply)
      .set({ ...facts, version: old.version + 1 })
      .where(eq(supply.id, target));
    await tx.update(parcel).set({ place: facts.place }).where(eq(parcel.id, old.parcelId));
  },
});

/** Deliveries. */
export function supplyRoutes(app: App): void {
  app.get(
    '/api/supplies',
    {
      config: { cached: true },
      schema: {
        tags: ['recipe'],
        summary: 'Deliveries of ingredients and packaging with what is left of them, oldest first',
        response: { 200: z.array(Supply) },
      },
    },
    async (request) => {
      const rows = await request.store.db
        .select({ supply, remainingMg: parcel.remainingMg, remainingCount: parcel.count })
        .from(supply)
        .innerJoin(parcel, eq(parcel.id, supply.parcelId))
        .orderBy(asc(supply.receivedOn), asc(supply.id));
      return rows.map(({ supply: { stepId: _, createdAt: __, ...facts }, ...left }) => ({
        ...facts,
        ...left,
      }));
    },
  );
}
