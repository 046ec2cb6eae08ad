import fc from 'fast-check';
import { currentNote, renamedNotes, starterNotes } from './index.ts';

test('an older word is followed to what it has become, through merges as well', () => {
  let renames = renamedNotes({}, [{ from: 'berry', to: 'red fruit' }]);
  renames = renamedNotes(renames, [{ from: 'red fruit', to: 'fruit' }]);
  renames = renamedNotes(renames, [{ from: 'citrus', to: 'fruit' }]);
  expect(['berry', 'red fruit', 'citrus', 'fruit', 'tea'].map((n) => currentNote(n, renames))).toEqual([
    'fruit',
    'fruit',
    'fruit',
    'fruit',
    'tea',
  ]);
});

test('a word taken up again stands for itself', () => {
  let renames = renamedNotes({}, [{ from: 'berry', to: 'red fruit' }]);
  renames = renamedNotes(renames, [{ from: 'red fruit', to: 'berry' }]);
  expect([currentNote('berry', renames), currentNote('red fruit', renames)]).toEqual(['berry', 'berry']);
  // Even a list with a ring in it gives an answer.
  expect(currentNote('a', { a: 'b', b: 'a' })).toBe('a');
  expect(currentNote('toString', {})).toBe('toString');
});

test('whatever is renamed, every word leads to one that is not renamed any more', () => {
  const word = fc.constantFrom('a', 'b', 'c', 'd', 'e');
  fc.assert(
    fc.property(fc.array(fc.record({ from: word, to: word }), { maxLength: 12 }), (changes) => {
      let renames: Record<string, string> = {};
      for (const c of changes) renames = renamedNotes(renames, [c]);
      for (const w of ['a', 'b', 'c', 'd', 'e']) {
        const now = currentNote(w, renames);
        expect(currentNote(now, renames)).toBe(now);
        expect(Object.hasOwn(renames, now)).toBe(false);
      }
    }),
  );
  expect(starterNotes().families.length).toBeGreaterThan(3);
});
