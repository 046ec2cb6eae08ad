import { keepsUntil, oldestFirst } from './oldestFirst.ts';

const shelf = [
  { id: 'c', count: 10, bestBefore: null, madeAt: '2026-01-01' },
  { id: 'b', count: 20, bestBefore: '2027-03-01', madeAt: '2026-03-01' },
  { id: 'a', count: 5, bestBefore: '2027-01-01', madeAt: '2026-04-01' },
];

test('what keeps shortest goes first, and no more than there is', () => {
  const take = (wanted: number, day = '2026-12-01') => oldestFirst(shelf, wanted, day);
  expect(take(12)).toEqual([
    { id: 'a', count: 5 },
    { id: 'b', count: 7 },
  ]);
  expect(take(99).reduce((n, t) => n + t.count, 0)).toBe(35);
  expect(take(0)).toEqual([]);
  expect(() => take(Number.NaN)).toThrow(RangeError);
  expect(() => take(-1)).toThrow(RangeError);
});

test('the day it is best before is the last on which it goes out', () => {
  const ids = (day: string) => oldestFirst(shelf, 99, day).map((t) => t.id);
  expect(ids('2027-01-01')).toEqual(['a', 'b', 'c']);
  expect(ids('2027-01-02')).toEqual(['b', 'c']);
  expect(ids('2027-03-02')).toEqual(['c']);
  expect(keepsUntil(null, '2027-01-02')).toBe(true);
  expect(keepsUntil('2027-01-01', '2027-01-02')).toBe(false);
  for (const wrong of ['', 'tomorrow', '2027-13-01', '1.3.2027'])
    expect(() => keepsUntil('2027-01-01', wrong)).toThrow(RangeError);
  expect(() => keepsUntil('soon', '2027-01-01')).toThrow(RangeError);
});
