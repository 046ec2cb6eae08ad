import fc from 'fast-check';
import { brokenLines } from './lines.ts';

const upTo = (most: number) => (line: string) => [...line].length <= most;

test('lines break between words, and a number stays with its unit', () => {
  expect(brokenLines('25 % der Leute (0\u00a0% bis 68\u00a0%)', upTo(12))).toEqual([
    '25 % der',
    'Leute (0\u00a0%',
    'bis 68\u00a0%)',
  ]);
  expect(brokenLines('  \n ', upTo(5))).toEqual([]);
});

test('a word longer than a line breaks after its hyphen, or where it must', () => {
  expect(brokenLines('VA-05C-261102', upTo(9))).toEqual(['VA-05C-', '261102']);
  expect(brokenLines('of Kühlschranktür', upTo(6))).toEqual(['of', 'Kühlsc', 'hrankt', 'ür']);
  expect(brokenLines('abc', upTo(0))).toEqual(['a', 'b', 'c']);
});

test('whatever is set, nothing is lost and every line fits', () => {
  fc.assert(
    fc.property(fc.string(), fc.integer({ min: 1, max: 20 }), (text, most) => {
      const lines = brokenLines(text, upTo(most));
      const bare = (of: string) => of.replaceAll(/[ \t\r\n]/g, '');
      expect(bare(lines.join(''))).toBe(bare(text));
      expect(lines.every(upTo(most))).toBe(true);
    }),
  );
});
