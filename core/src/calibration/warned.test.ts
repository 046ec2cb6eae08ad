import { usualLead, warnedOf } from './index.ts';

test('what happened and what did not are counted apart, and a warning too late is none', () => {
  const of = warnedOf([
    { happenedAt: 100, warnedAt: 40 },
    { happenedAt: 100, warnedAt: 100 },
    { happenedAt: 100, warnedAt: null },
    { happenedAt: 90, warnedAt: 80 },
    { happenedAt: null, warnedAt: 30 },
    { happenedAt: null, warnedAt: null },
  ]);
  expect(of).toEqual({ happened: 4, quiet: 2, inTime: 2, leads: [60, 10], false: 1 });
  expect(usualLead(of)).toBe(35);
  expect(usualLead(warnedOf([]))).toBeNull();
  expect(() => warnedOf([{ happenedAt: Number.NaN, warnedAt: null }])).toThrow(RangeError);
});
