import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { FirstRun, MachinePut, WorkshopPut } from '@wunsch/contract';
import { STARTER_INGREDIENTS } from '@wunsch/core/recipe';
import { requireMatch, StoredPerson } from '../access/handlers.ts';
import { handler, OWNERS } from '../commands/command.ts';
import { ingredient, machine, person, workshop } from '../db/schema/index.ts';
import { notFound, Problem } from '../formats/problem.ts';

const withMatch = { ifMatch: z.int().nullable().default(null) };

/** The first run as the journal keeps it: people with hashed passwords. */
export const StoredFirstRun = FirstRun.pick({ workshop: true, machines: true }).extend({
  people: z.array(StoredPerson.extend({ id: z.uuid() })),
});

/** Making the workshop with its owner, people, machines and the starter ingredients. */
export const workshopSetup = handler({
  kind: 'workshop.setup',
  body: StoredFirstRun,
  async apply({ tx, at, body, newId }) {
    const [there] = await tx.select({ id: workshop.id }).from(workshop);
    if (there)
      throw new Problem({
        status: 409,
        code: 'workshop-exists',
        detail: 'this workshop is already set up; sign in to change it',
      });
    await tx.insert(workshop).values({ id: 1, settings: body.workshop, createdAt: at });
    await tx.insert(person).values(body.people.map(({ ifMatch: _, ...p }) => p));
    if (body.machines.length > 0) await tx.insert(machine).values(body.machines);
    await tx
      .insert(ingredient)
      .values(
        STARTER_INGREDIENTS.map(({ allergens, ...i }) => ({ ...i, allergens: [...allergens], id: newId() })),
      );
  },
});

/** Changing the workshop's habits and units. */
export const workshopUpdate = handler({
  kind: 'workshop.update',
  body: WorkshopPut.extend(withMatch),
  roles: OWNERS,
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

/** Adding or changing a machine. */
export const machinePut = handler({
  kind: 'machine.put',
  body: MachinePut.extend(withMatch),
  roles: OWNERS,
  async apply({ tx, target, body: { ifMatch, ...facts } }) {
    if (facts.minMg !== null && facts.maxMg !== null && facts.minMg > facts.maxMg) {
      throw new Problem({
        status: 422,
        code: 'min-above-max',
        field: 'minMg',
        detail: 'the usable minimum must not be above the maximum',
      });
    }
    const [old] = await tx.select().from(machine).where(eq(machine.id, target));
    if (!old) {
      await tx.insert(machine).values({ id: target, ...facts });
      return;
    }
    requireMatch(ifMatch, old.version, 'machine');
    await tx
      .update(machine)
      .set({ ...facts, version: old.version + 1 })
      .where(eq(machine.id, target));
  },
});

/** Giving a machine a device token; only its hash is kept. */
export const machineToken = handler({
  kind: 'machine.token',
  body: z.object({ tokenHash: z.string().length(64) }),
  roles: OWNERS,
  async apply({ tx, target, body }) {
    const [row] = await tx
      .update(machine)
      .set({ tokenHash: body.tokenHash })
      .where(eq(machine.id, target))
      .returning({ id: machine.id });
    if (!row) throw notFound('machine', target);
  },
});
