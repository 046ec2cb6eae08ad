import fc from 'fast-check';
import { bestBefore, chocolateShare, countBars, dewPoint } from './index.ts';

describe('bars', () => {
  test('18.4 kg less 0.35 kg at 45 g is 401', () => {
    expect(countBars({ massMg: 18_400_000, holdUpMg: 350_000, fillMg: 45_000, cavities: 4 })).toEqual({
      bars: 401,
      inBarsMg: 18_045_000,
      leftMg: 5000,
      fullMoulds: 100,
      inclusionsMg: 0,
      fills: 101,
    });
  });
  test('nothing is lost or made', () => {
    fc.assert(
      fc.property(fc.nat(1e9), fc.nat(1e8), fc.integer({ min: 1, max: 1e6 }), (massMg, holdUpMg, fillMg) => {
        const r = countBars({ massMg, holdUpMg, fillMg });
        expect(r.inBarsMg + r.leftMg).toBe(Math.max(0, massMg - holdUpMg));
        expect(r.leftMg).toBeLessThan(fillMg);
      }),
    );
  });
  test('refuses a bar of nothing', () =>
    expect(() => countBars({ massMg: 1, holdUpMg: 0, fillMg: 0 })).toThrow(/above 0/));
});

test('dew point: 21 °C at 55 % gives 11.6 °C, and saturated air its own temperature', () => {
  expect(dewPoint(21, 55)).toBeCloseTo(11.6, 1);
  expect(dewPoint(18, 100)).toBeCloseTo(18, 9);
  expect(() => dewPoint(20, 0)).toThrow(/humidity/);
});

test('best before keeps to the calendar', () => {
  expect(bestBefore('2026-08-31', 6)).toBe('2027-02-28');
  expect(bestBefore('2026-11-23', 18)).toBe('2028-05-23');
  expect(() => bestBefore('23.11.2026', 18)).toThrow(/2026-10-02/);
});

test('filled pieces are as much chocolate as was weighed: all but the filling', () => {
  // 254 g of shells, 300 g of nuts, 75 g of caps.
  expect(chocolateShare({ madeMg: 629_000, fillingMg: 300_000 })).toBeCloseTo((100 * 329) / 629, 9);
  expect(chocolateShare({ madeMg: 629_000, fillingMg: 0 })).toBe(100);
  for (const wrong of [
    { madeMg: 0, fillingMg: 0 },
    { madeMg: 10, fillingMg: 11 },
    { madeMg: 10, fillingMg: -1 },
    { madeMg: 10, fillingMg: NaN },
  ])
    expect(() => chocolateShare(wrong)).toThrow(RangeError);
});
