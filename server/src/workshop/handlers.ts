import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { FirstRun, IngredientPut, MachinePut, WorkshopPut } from '@wunsch/contract';
import { usualMoney } from '@wunsch/core/quantity';
import { STARTER_INGREDIENTS } from '@wunsch/core/recipe';
import { StoredPerson } from '../access/handlers.ts';
import { requireMatch } from '../access/match.ts';
import { handler, lineOf, OWNERS, withMatch } from '../commands/command.ts';
import { rowId } from '../commands/group.ts';
import { ingredient, machine, person, workshop } from '../db/schema/index.ts';
import { notFound, Problem } from '../http/problem.ts';
import { FIRST_SHELF } from './firstShelf.ts';

/** The first run as the journal keeps it: people with hashed passwords, and the ingredients it puts on the shelf. */
export const StoredFirstRun = FirstRun.pick({ workshop: true }).extend({
  machines: z
    .array(MachinePut.extend({ id: z.uuid() }))
    .max(50)
    .default([]),
  people: z.array(StoredPerson.extend({ id: z.uuid() })),
  ingredients: z.array(IngredientPut.extend({ id: z.uuid() })).max(500),
});

/** The starter ingredients with ids of their own, at the usual prices in its currency, as a new workshop is given them. */
export function starterShelf(newId: () => string, currency: string) {
  return STARTER_INGREDIENTS.map(({ allergens, pricePerKg, ...i }) => ({
    ...i,
    pricePerKg: usualMoney(pricePerKg, currency),
    allergens: [...allergens],
    id: newId(),
  }));
}

/** Making the workshop with its owner, people, machines and the starter ingredients. */
export const workshopSetup = handler({
  kind: 'workshop.setup',
  version: 2,
  upcasters: {
    // The first release put its own starter ingredients on the shelf, under ids made from the entry's number.
    1: (body, { seq }) => ({
      ...body,
      ingredients: FIRST_SHELF.map((i, n) => ({ ...i, id: rowId(seq, n + 1) })),
    }),
  },
  body: StoredFirstRun,
  touches: ['workshop', 'people', 'machines', 'ingredients'],
  async apply({ tx, at, body }) {
    const [there] = await tx.select({ id: workshop.id }).from(workshop);
    if (there) throw workshopExists();
    await tx.insert(workshop).values({ id: 1, settings: body.workshop, createdAt: at });
    await tx.insert(person).values(body.people.map(({ ifMatch: _, ...p }) => p));
    if (body.machines.length > 0) await tx.insert(machine).values(body.machines);
    if (body.ingredients.length > 0) await tx.insert(ingredient).values(body.ingredients);
  },
});

/** 409: there is a workshop already. */
export function workshopExists(): Problem {
  return new Problem({
    status: 409,
    code: 'workshop-exists',
    detail: 'this workshop is already set up; sign in to change it',
  });
}

/** Changing the workshop's habits and units. */
export const workshopUpdate = handler({
  kind: 'workshop.update',
  version: 1,
  body: withMatch(WorkshopPut),
  roles: OWNERS,
  touches: ['workshop', 'batches'],
  line: lineOf('name'),
  async apply({ tx, body: { ifMatch, ...settings } }) {
    const [old] = await tx.select().from(workshop);
    if (!old) throw notFound('workshop', '');
    requireMatch(ifMatch, old.version, 'workshop');
    await tx
      .update(workshop)
      .set({ settings, version: old.version + 1 })
      .where(eq(workshop.id, 1));
  },
});
