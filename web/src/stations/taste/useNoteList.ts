import { createContext, useContext } from 'react';
import type { NoteListView } from '@wunsch/contract';
import { currentNote, starterNotes, type NoteFamily, type Stroke } from '@wunsch/core/taste';
import { useRead } from '../../shell/door.tsx';

/** Families given to those who may not read the workshop’s own list: guests get them with their glasses. */
export const NoteFamiliesContext = createContext<readonly NoteFamily[] | null>(null);

/** The workshop’s words for notes. */
export const useNoteList = (isWanted = true) =>
  useRead<NoteListView>(isWanted ? '/api/note-lists/current' : null);

/** Families of notes to choose from. */
export function useNoteFamilies(): readonly NoteFamily[] {
  const given = useContext(NoteFamiliesContext);
  const { data } = useNoteList(given === null);
  return given ?? data?.families ?? starterNotes().families;
}

/** Brings strokes laid with older words up to today’s. */
export function useCurrentStrokes(): (strokes: readonly Stroke[]) => Stroke[] {
  const { data } = useNoteList();
  return (strokes) => strokes.map((s) => ({ ...s, note: currentNote(s.note, data?.renames ?? {}) }));
}
