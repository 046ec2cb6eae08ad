import { eq } from 'drizzle-orm';
import { PagePublish, PersonNamed } from '@wunsch/contract';
import { handler, lineOf, OWNERS, type Handler } from '../commands/command.ts';
import { batch, person, publicPage, recipe } from '../db/schema/index.ts';
import { notFound, Problem } from '../http/problem.ts';

/** Switching the public page of a recipe or a batch on or off, and choosing what it shows. */
export const pagePublish = handler({
  kind: 'page.publish',
  version: 1,
  put: {
    path: '/api/pages/:id',
    summary:
      'Switch the public page of a recipe’s or a batch’s bars on or off; the id is the recipe’s or batch’s',
    tag: 'pages',
  },
  body: PagePublish,
  roles: OWNERS,
  touches: ['pages'],
  line: lineOf('of', 'isOn', 'shows'),
  async apply({ tx, target, body, at, by }) {
    const table = body.of === 'recipe' ? recipe : batch;
    const [there] = await tx.select({ id: table.id }).from(table).where(eq(table.id, target));
    if (!there) throw notFound(body.of, target);
    await tx
      .insert(publicPage)
      .values({ id: target, facts: body, at, by })
      .onConflictDoUpdate({ target: publicPage.id, set: { facts: body, at, by } });
    return { batchId: body.of === 'batch' ? target : null };
  },
});

/** Whether somebody wants to be named on public pages: they alone decide, and may change their mind. */
export const personNamed = handler({
  kind: 'person.named',
  version: 1,
  put: {
    path: '/api/people/:id/named',
    summary: 'Say whether you want to be named on the public pages of bars you made',
    tag: 'access',
  },
  body: PersonNamed,
  touches: ['people', 'pages'],
  line: lineOf('isNamed'),
  async apply({ tx, target, personId, body }) {
    if (personId !== target)
      throw new Problem({
        status: 403,
        code: 'role',
        detail: 'only the person themselves can agree to be named',
      });
    const [who] = await tx.select({ id: person.id }).from(person).where(eq(person.id, target));
    if (!who) throw notFound('person', target);
    await tx.update(person).set({ isNamed: body.isNamed }).where(eq(person.id, target));
  },
});

/** Kinds of entries about what anyone may see. */
export const pageHandlers: readonly Handler[] = [pagePublish, personNamed];
