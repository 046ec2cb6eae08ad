import { lotWords } from './index.ts';

test.each([
  ['Nkondo Growers', '2026', ['Nkondo Growers', '2026']],
  ['Nkondo Growers 2026', '2026', ['Nkondo Growers 2026']],
  ['Nkondo Growers (2026), late', '2026', ['Nkondo Growers (2026), late']],
  ['Plot 20261', '2026', ['Plot 20261', '2026']],
  ['Late crop main 2025/26', 'main 2025/26', ['Late crop main 2025/26']],
  ['Glasshouse crate', ' ', ['Glasshouse crate']],
  ['', '2026', ['2026']],
])('%p of %p is called %p', (name, harvest, words) => expect(lotWords(name, harvest)).toEqual(words));
