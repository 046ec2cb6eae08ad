import { eq } from 'drizzle-orm';
import { schema, type Store } from '@wunsch/server';

const { person } = schema;

const DAY = 86_400_000;

/** Who is signed off where: Jory makes, Marit is growing into it. */
const SIGNED = {
  JB: ['sort', 'roast', 'winnow', 'recipe', 'grind'],
  MR: ['sort', 'mould', 'taste'],
} as const;

/** Signs the demo's makers off. */
export async function writeSkills(store: Store, now: number): Promise<void> {
  const people = await store.db.select().from(person).where(eq(person.active, true));
  const owner = people.find((p) => p.role === 'owner');
  if (!owner) return;
  let k = 0;
  for (const [initials, stations] of Object.entries(SIGNED)) {
    const maker = people.find((p) => p.initials === initials);
    for (const station of maker ? stations : [])
      await store.writer.submit({
        kind: 'skill.sign',
        target: owner.id.replace(/^.{8}/, `019404${(k += 1).toString(16).padStart(2, '0')}`),
        body: { personId: maker!.id, station },
        actor: { id: owner.id, initials: owner.initials, role: 'owner' },
        at: new Date(now - 0.02 * DAY).toISOString(),
      });
  }
}
