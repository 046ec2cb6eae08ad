import { v7 } from 'uuid';
import type { Person, Workshop } from '@wunsch/contract';
import { starterShelf } from '../workshop/handlers.ts';
import type { Store } from '../store/store.ts';

/** Makes entries in a practice as the learner. */
export type Submit = (kind: string, target: string, body: object) => Promise<unknown>;

/** Makes a small workshop for a lesson: its settings are those of the real one, the learner owns it, and there is one machine. */
export async function firstShop(
  store: Store,
  person: Person,
  workshop: Workshop,
  machine: { id: string; name: string; station: string; kind: string } & Record<string, unknown>,
) {
  const actor = { id: person.id, initials: person.initials, role: 'owner' as const };
  const submit: Submit = (kind, target, body) => store.writer.submit({ kind, target, actor, body });
  const { version: _, createdAt: __, ...settings } = workshop;
  await submit('workshop.setup', 'workshop', {
    workshop: settings,
    machines: [machine],
    people: [
      { id: person.id, name: person.name, initials: person.initials, role: 'owner', passwordHash: null },
    ],
    ingredients: starterShelf(v7),
  });
  return { actor, submit };
}
