import { eq } from 'drizzle-orm';
import { schema, type Store } from '@wunsch/server';

const { person } = schema;

const DAY = 86_400_000;

/** Who is signed off where: Jory makes, Marit is growing into it. */
const SIGNED = {
  JB: ['sort', 'roast', 'winnow', 'recipe', 'grind'],
  MR: ['sort', 'mould', 'taste'],
} as const;

/** Stations whose caution everyone has read long ago. */
const CAUTIONED = ['beans', 'roast', 'winnow', 'recipe', 'grind', 'temper', 'mould'];

/** Signs the demo’s makers off, and has everybody read what to mind. */
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
  for (const maker of people.filter((p) => p.role === 'owner' || p.role === 'maker'))
    for (const station of CAUTIONED)
      await store.writer.submit({
        kind: 'caution.read',
        target: owner.id.replace(/^.{8}/, `019405${(k += 1).toString(16).padStart(2, '0')}`),
        body: { station },
        actor: { id: maker.id, initials: maker.initials, role: maker.role },
        at: new Date(now - 0.021 * DAY).toISOString(),
      });
}
