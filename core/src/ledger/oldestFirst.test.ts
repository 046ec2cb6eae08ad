import { oldestFirst } from './oldestFirst.ts';

const shelf = [
  { id: 'c', count: 10, bestBefore: null, madeAt: '2026-01-01' },
  { id: 'b', count: 20, bestBefore: '2027-03-01', madeAt: '2026-03-01' },
  { id: 'a', count: 5, bestBefore: '2027-01-01', madeAt: '2026-04-01' },
];

test('what keeps shortest goes first, and no more than there is', () => {
  expect(oldestFirst(shelf, 12)).toEqual([
    { id: 'a', count: 5 },
    { id: 'b', count: 7 },
  ]);
  expect(oldestFirst(shelf, 99).reduce((n, t) => n + t.count, 0)).toBe(35);
  expect(oldestFirst(shelf, 0)).toEqual([]);
  expect(() => oldestFirst(shelf, Number.NaN)).toThrow(RangeError);
  expect(() => oldestFirst(shelf, -1)).toThrow(RangeError);
});
