import { and, desc, eq, sql } from 'drizzle-orm';
import { schema, type Store } from '@wunsch/server';

const { batch, observation, person, step } = schema;

const DAY = 86_400_000;

/**
 * What was told of bars: one by the page of a bar whose bowl had stood too warm, still open; one found by hand some weeks ago, whose
 * grinder had run on for days, closed with a reminder. Bars of that recipe have a page for anyone.
 */
export async function writeCases(store: Store, now: number): Promise<void> {
  const { db, writer } = store;
  const [owner] = await db.select({ id: person.id }).from(person).where(eq(person.role, 'owner'));
  if (!owner) return;
  const id = (k: number) => owner.id.replace(/^.{8}/, `0194020${k}`);
  const write = (kind: string, target: string, body: object, daysAgo: number, isPublic = false) =>
    writer.submit({
      kind,
      target,
      body,
      actor: isPublic
        ? { id: null, initials: 'public', role: 'taster' }
        : { id: owner.id, initials: 'AK', role: 'owner' },
      at: new Date(now - daysAgo * DAY).toISOString(),
    });
  const [bloomed] = await db
    .select({
      batchId: step.batchId,
      recipeId: batch.recipeId,
      code: sql<string>`${step.details} ->> 'barCode'`,
    })
    .from(observation)
    .innerJoin(step, eq(step.id, observation.stepId))
    .innerJoin(batch, eq(batch.id, step.batchId))
    .where(and(eq(observation.kind, 'result'), sql`(${observation.data} ->> 'bloom')::boolean`))
    .orderBy(desc(observation.at))
    .limit(1);
  if (!bloomed?.batchId || !bloomed.recipeId) return;
  await write('person.named', owner.id, { isNamed: true }, 0.02);
  await write(
    'page.publish',
    bloomed.recipeId,
    {
      of: 'recipe',
      isOn: true,
      shows: ['origin', 'growers', 'map', 'ribbon', 'days', 'making', 'people'],
      words:
        'We roast, grind and wrap everything by hand at Saltmarsh Row. Come and look through the window.',
    },
    0.02,
  );
  // The longest grind there was: somebody forgot it until Saturday.
  const [longest] = await db
    .select({ batchId: step.batchId, code: batch.code })
    .from(step)
    .innerJoin(batch, eq(batch.id, step.batchId))
    .where(and(eq(step.kind, 'grind'), eq(step.status, 'closed')))
    .orderBy(sql`${step.endedAt} - ${step.startedAt} desc`)
    .limit(1);
  if (longest?.batchId) {
    await write(
      'case.open',
      id(1),
      {
        batchId: longest.batchId,
        code: longest.code,
        signs: ['flat'],
        text: 'Tastes of cardboard beside the others.',
        from: 'maker',
      },
      0.015,
    );
    await write(
      'case.close',
      id(1),
      {
        cause: 'longConche',
        action: 'Used in the house blend.',
        clues: { concheLong: true },
        reminder: {
          id: id(2),
          station: 'grind',
          text: `Taste from the first evening on; ${longest.code} went flat when it ran on to Saturday.`,
          lotId: null,
          recipeId: null,
        },
      },
      0.014,
    );
  }
  await write(
    'case.open',
    id(3),
    {
      batchId: bloomed.batchId,
      code: bloomed.code,
      signs: ['streaks'],
      text: 'Grey swirls all over it when I opened it, and it was soft in the hand. It tasted all right.',
      kept: 'In the kitchen cupboard, two days.',
      name: 'Ina W.',
      contact: 'ina@example.org',
      from: 'public',
    },
    0.01,
    true,
  );
}
