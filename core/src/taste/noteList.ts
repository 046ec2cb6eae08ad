import { STARTER_NOTES } from './card.ts';

/** A family of notes, with its notes in their order. */
export interface NoteFamily {
  name: string;
  notes: readonly string[];
}

/** The workshop’s own words for notes, and what older words have become. */
export interface NoteList {
  families: readonly NoteFamily[];
  /** An older word, and the word it has become: renamed, or merged into another. */
  renames: Readonly<Record<string, string>>;
}

/** The list a workshop begins with. */
export function starterNotes(): NoteList {
  return {
    families: Object.entries(STARTER_NOTES).map(([name, notes]) => ({ name, notes: [...notes] })),
    renames: {},
  };
}

/** What a note is called today. Cards keep the word that was said; an older word is followed to what it has become. */
export function currentNote(note: string, renames: NoteList['renames']): string {
  let now = note;
  const seen = new Set<string>();
  while (!seen.has(now)) {
    seen.add(now);
    const next = Object.hasOwn(renames, now) ? renames[now]! : now;
    if (next === now) return now;
    now = next;
  }
  // A ring of names, which no list should hold, leaves the word as it was said.
  return note;
}

/**
 * A list after notes were renamed, or merged into others of the list: older words lead to the newest, and a word that is used again
 * stands for itself.
 */
export function renamedNotes(
  before: NoteList['renames'],
  changes: readonly { from: string; to: string }[],
): Record<string, string> {
  const renames: Record<string, string> = { ...before };
  for (const { from, to } of changes) {
    if (from === to) continue;
    for (const [old, now] of Object.entries(renames)) if (now === from) renames[old] = to;
    renames[from] = to;
    delete renames[to];
  }
  return renames;
}
