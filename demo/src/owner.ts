import { eq } from 'drizzle-orm';
import { schema, type Store } from '@wunsch/server';

const { person } = schema;

/** The owner, as whom entries are made, and ids of their own for them; null in a workshop without one. */
export async function ownersHand(store: Store, prefix: string) {
  const [owner] = await store.db.select().from(person).where(eq(person.role, 'owner'));
  if (!owner) return null;
  return {
    actor: { id: owner.id, initials: owner.initials, role: 'owner' as const },
    id: (k: number) => owner.id.replace(/^.{8}/, `${prefix}${k.toString(16).padStart(2, '0')}`),
  };
}
