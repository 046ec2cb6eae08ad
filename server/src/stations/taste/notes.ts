import { eq } from 'drizzle-orm';
import { NoteListPut, NoteListView } from '@wunsch/contract';
import { renamedNotes, starterNotes } from '@wunsch/core/taste';
import { requireMatch } from '../../access/match.ts';
import { handler, MAKERS, withMatch } from '../../commands/command.ts';
import type { Db } from '../../db/database.ts';
import { noteList } from '../../db/schema/index.ts';
import type { App } from '../../http/types.ts';

/** There is one list. */
const ONE = 1;

/** The workshop’s words for notes; those every workshop begins with where it has none of its own, or none that can be understood. */
export async function loadNotes(db: Db): Promise<NoteListView> {
  const [row] = await db.select().from(noteList).where(eq(noteList.id, ONE));
  const read = NoteListView.omit({ version: true }).safeParse(row?.facts ?? starterNotes());
  const { families, renames } = read.success ? read.data : starterNotes();
  return {
    families: families.map((f) => ({ name: f.name, notes: [...f.notes] })),
    renames: { ...renames },
    version: row?.version ?? 0,
  };
}

/** Changing the list: notes added, left out, renamed or merged. Cards keep the words that were said. */
export const notesPut = handler({
  kind: 'notes.put',
  version: 1,
  put: {
    path: '/api/note-lists/:id',
    summary:
      'Change the workshop’s words for notes (If-Match); older cards follow what was renamed or merged',
    tag: 'taste',
    body: NoteListPut,
    guarded: true,
  },
  body: withMatch(NoteListPut),
  roles: MAKERS,
  touches: ['tastings', 'panels'],
  keepsRead: true,
  async apply({ tx, body: { ifMatch, families, renamed } }) {
    const old = await loadNotes(tx);
    requireMatch(ifMatch, old.version, 'list of notes');
    const facts = { families, renames: renamedNotes(old.renames, renamed) };
    await tx
      .insert(noteList)
      .values({ id: ONE, facts, version: old.version + 1 })
      .onConflictDoUpdate({ target: noteList.id, set: { facts, version: old.version + 1 } });
  },
});

/** The list as it stands. */
export function noteRoutes(app: App): void {
  app.get(
    '/api/note-lists/current',
    {
      config: { cached: true },
      schema: {
        tags: ['taste'],
        summary: 'The workshop’s words for notes, and what older words have become',
        response: { 200: NoteListView },
      },
    },
    (request) => loadNotes(request.store.db),
  );
}
