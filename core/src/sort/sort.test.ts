import fc from 'fast-check';
import {
  beanSize,
  beansCounted,
  chanceWithin,
  fermentationIndex,
  gradeOf,
  GRADES,
  judgeGrade,
  NO_COUNTS,
  shareOf,
  sortPace,
  type CutCounts,
} from './index.ts';

const counts = (more: Partial<CutCounts>): CutCounts => ({ ...NO_COUNTS, ...more });

describe('cut test', () => {
  test('9 of 300 is 3.0 % [1.38, 5.62]', () => {
    const s = shareOf(counts({ brown: 291, mouldy: 9 }), ['mouldy']);
    expect(s.share).toBe(0.03);
    expect(s.low * 100).toBeCloseTo(1.38, 2);
    expect(s.high * 100).toBeCloseTo(5.62, 2);
  });
  test('the chance of being within a limit agrees with summing the binomial', () => {
    // P(p ≤ L | c of n, uniform prior) = P(Bin(n + 1, L) > c).
    const direct = (c: number, n: number, L: number) => {
      let term = (1 - L) ** (n + 1);
      let below = term;
      for (let k = 1; k <= c; k += 1) {
        term *= ((n + 2 - k) / k) * (L / (1 - L));
        below += term;
      }
      return 1 - below;
    };
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 300 }),
        fc.double({ min: 0.01, max: 0.3, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (n, L, share) => {
          const c = Math.floor(share * Math.min(n, 40));
          expect(chanceWithin(c, n, L)).toBeCloseTo(direct(c, n, L), 6);
        },
      ),
    );
  });
  test('a clean lot is settled, a doubtful one says how many more beans', () => {
    const clean = judgeGrade(counts({ brown: 300 }), GRADES[0]!);
    expect(clean.every((v) => v.verdict === 'within' && v.beansToSettle === 0)).toBe(true);
    const doubtful = judgeGrade(counts({ brown: 98, mouldy: 2 }), GRADES[0]!)[0]!;
    expect(doubtful.verdict).toBe('open');
    expect(doubtful.beansToSettle).toBeGreaterThan(50);
    const worse = judgeGrade(counts({ brown: 80, mouldy: 20 }), GRADES[0]!)[0]!;
    expect(worse).toMatchObject({ verdict: 'over', beansToSettle: 0 });
  });
  test('settling beans do settle it', () => {
    const v = judgeGrade(counts({ brown: 98, mouldy: 2 }), GRADES[0]!)[0]!;
    const n = 100 + v.beansToSettle!;
    const chance = chanceWithin(2 + Math.round(0.02 * v.beansToSettle!), n, 0.03);
    expect(Math.max(chance, 1 - chance)).toBeGreaterThanOrEqual(0.95);
  });
  test('grades by the default table', () => {
    expect(gradeOf(counts({ brown: 291, mouldy: 9 }))?.name).toBe('I');
    expect(gradeOf(counts({ brown: 289, mouldy: 11 }))?.name).toBe('II');
    expect(gradeOf(counts({ brown: 80, slaty: 20 }))).toBeNull();
    expect(gradeOf(NO_COUNTS)).toBeNull();
  });
  test('fermentation index and totals', () => {
    const c = counts({ brown: 60, 'partly violet': 20, violet: 20 });
    expect(fermentationIndex(c)).toBe(70);
    expect(beansCounted(c)).toBe(100);
    expect(fermentationIndex(NO_COUNTS)).toBeNaN();
    expect(shareOf(NO_COUNTS, ['flat'])).toMatchObject({ low: 0, high: 1 });
  });
});

test('sorting pace and what rejects cost', () => {
  expect(
    sortPace({ inMg: 12_000_000, rejectMg: 300_000, minutes: 90, pricePerKg: 900, labourRate: 1500 }),
  ).toEqual({ kgPerHour: 8, rejectShare: 0.025, rejectCost: 270, labourPerKg: 2250 / 11.7 });
  expect(sortPace({ inMg: 1, rejectMg: 0, minutes: 0, pricePerKg: 1, labourRate: 1 })).toBeNull();
});

test('bean size and spread', () => {
  expect(beanSize([1, 1.2, 0.8])).toMatchObject({
    meanG: 1,
    per100g: 100,
    spreadPercent: expect.closeTo(20, 6),
  });
  expect(beanSize([1.1]).spreadPercent).toBeNaN();
  expect(() => beanSize([0])).toThrow(/above 0 g/);
});
