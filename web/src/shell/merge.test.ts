import { mergeChanges } from './merge.ts';

const base = { name: 'A lot', price: 900, plots: null as number[] | null };

test('what only I changed goes onto theirs, what only they changed stays', () =>
  expect(mergeChanges(base, { ...base, price: 950 }, { ...base, name: 'The lot' })).toEqual({
    mine: { price: 950 },
    clashes: [],
  }));

test('what both changed differently is a clash; alike is none', () => {
  expect(mergeChanges(base, { ...base, price: 950 }, { ...base, price: 910 })).toEqual({
    mine: {},
    clashes: ['price'],
  });
  expect(mergeChanges(base, { ...base, plots: [1] }, { ...base, plots: [1] }).clashes).toEqual([]);
  expect(mergeChanges(base, { ...base, plots: [1] }, { ...base, plots: [2] }).clashes).toEqual(['plots']);
});

test('nothing changed by me is nothing to save', () =>
  expect(mergeChanges(base, base, { ...base, price: 1 })).toEqual({ mine: {}, clashes: [] }));
