import { useState } from 'react';
import type { NoteListPut, NoteListView } from '@wunsch/contract';
import { newId } from '../../shell/entry.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { RemoveButton } from '../../ui/RemoveButton.tsx';
import { useWords } from '../../words/words.tsx';

interface NoteRow {
  key: string;
  /** The word so far; null for a new one. */
  was: string | null;
  text: string;
}

interface FamilyRows {
  name: string;
  rows: NoteRow[];
}

const SAME = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase();

/**
 * What a list becomes: a word that was changed is renamed, one that now reads like another is merged into it, and an emptied one is
 * left out.
 */
export function changedList(families: readonly FamilyRows[]): NoteListPut {
  const kept: string[] = [];
  const renamed: { from: string; to: string }[] = [];
  const next = families.map(({ name, rows }) => ({
    name,
    notes: rows.flatMap(({ was, text }) => {
      const word = text.trim();
      if (word === '') return [];
      const there = kept.find((k) => SAME(k, word));
      const to = there ?? word;
      if (was !== null && was !== to) renamed.push({ from: was, to });
      if (there !== undefined) return [];
      kept.push(word);
      return [word];
    }),
  }));
  return { families: next.filter((f) => f.notes.length > 0), renamed };
}

/** The workshop’s words for notes, changed: renamed, merged, added, left out. Cards keep what was said and follow what it has become. */
export function NoteListDialog({ list, onClose }: { list: NoteListView; onClose: () => void }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const [families, setFamilies] = useState<FamilyRows[]>(() =>
    list.families.map(({ name, notes }) => ({
      name,
      rows: notes.map((n) => ({ key: n, was: n, text: words.word('note', n) })),
    })),
  );
  const change = (f: number, rows: NoteRow[]) =>
    setFamilies(families.map((x, k) => (k === f ? { ...x, rows } : x)));
  const all = families.flatMap((f) => f.rows);
  /** The row a row would be merged into: an earlier one of the same word. */
  const mergesInto = (row: NoteRow) =>
    row.text.trim() === '' ? undefined : all.slice(0, all.indexOf(row)).find((r) => SAME(r.text, row.text));
  // A word that only reads otherwise in this language has not been changed.
  const body = changedList(
    families.map((f) => ({
      ...f,
      rows: f.rows.map((r) =>
        r.was !== null && r.text === words.word('note', r.was) ? { ...r, text: r.was } : r,
      ),
    })),
  );
  return (
    <Dialog open onClose={onClose} title={t('notes.edit')} description={t('notes.edit.text')} wide>
      <form
        className="grid gap-4"
        onSubmit={(e) => {
          e.preventDefault();
          void send({
            path: `/api/note-lists/${newId()}`,
            body,
            ifMatch: list.version,
            label: t('done.notes'),
          }).then(onClose, () => undefined);
        }}
      >
        {families.map((family, f) => (
          <fieldset key={family.name}>
            <legend className="mb-1 font-semibold">{words.word('family', family.name)}</legend>
            <ul className="grid gap-1.5 sm:grid-cols-2">
              {family.rows.map((row, i) => {
                const into = mergesInto(row);
                return (
                  <li key={row.key} className="grid grid-cols-[1fr_44px] gap-1">
                    <span>
                      <input
                        value={row.text}
                        maxLength={60}
                        aria-label={row.was === null ? t('notes.new') : words.word('note', row.was)}
                        onChange={(e) =>
                          change(
                            f,
                            family.rows.map((r, k) => (k === i ? { ...r, text: e.target.value } : r)),
                          )
                        }
                        className="min-h-11 w-full rounded border border-edge bg-panel px-3"
                      />
                      {into && (
                        <span className="block text-[12px] text-ink-2">
                          {t('notes.merges', { note: into.text })}
                        </span>
                      )}
                    </span>
                    <RemoveButton
                      label={t('notes.remove', { note: row.text })}
                      onRemove={() =>
                        change(
                          f,
                          family.rows.filter((_, k) => k !== i),
                        )
                      }
                    />
                  </li>
                );
              })}
            </ul>
            <Button
              look="quiet"
              onClick={() => change(f, [...family.rows, { key: newId(), was: null, text: '' }])}
            >
              {t('notes.add')}
            </Button>
          </fieldset>
        ))}
        <Button type="submit" look="main" disabled={body.families.length === 0}>
          {t('notes.save')}
        </Button>
      </form>
    </Dialog>
  );
}
