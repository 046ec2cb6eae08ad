import fc from 'fast-check';
import { normalDraw, seededRandom } from '../numerics/index.ts';
import { fillControl, tolerableError } from './index.ts';

test.each([
  [5, 500],
  [45, 4100],
  [50, 4500],
  [60, 4500],
  [100, 4500],
  [101, 4600],
  [200, 9000],
  [250, 9000],
  [500, 15_000],
  [750, 15_000],
  [1500, 22_500],
])('a bar of %s g may be short by %s mg', (grams, mg) => expect(tolerableError(grams * 1000)).toBe(mg));

test('below 5 g and above 10 kg the rule names no error', () => {
  expect(tolerableError(4900)).toBeNull();
  expect(tolerableError(10_000_001)).toBeNull();
  expect(fillControl([4800, 4900], 4800).shortShare).toBeNull();
});

test('a sample by hand: five bars of 45 g', () => {
  const { meanMg, sdMg, giveAwayMg, short, verdict } = fillControl(
    [45_200, 45_600, 44_900, 46_000, 45_300],
    45_000,
  );
  expect(meanMg).toBe(45_400);
  // Deviations −200, 200, −500, 600, −100: squares 700,000 over 4.
  expect(sdMg).toBeCloseTo(Math.sqrt(700_000 / 4), 9);
  expect(giveAwayMg).toBe(400);
  expect(short).toBe(0);
  expect(verdict).toBe('good');
});

test('one bar in a small sample may be short, none by twice the error, and the mean must hold', () => {
  const full = Array.from({ length: 19 }, (_, i) => 45_500 + 20 * i);
  expect(fillControl([...full, 40_800], 45_000)).toMatchObject({ short: 1, farShort: 0, verdict: 'good' });
  expect(fillControl([...full.slice(1), 40_800, 40_700], 45_000).verdict).toBe('too-many-short');
  expect(fillControl([...full, 36_700], 45_000)).toMatchObject({ farShort: 1, verdict: 'far-short' });
  expect(
    fillControl(
      full.map((w) => w - 1500),
      45_000,
    ).verdict,
  ).toBe('mean-low');
});

test('the bound of the mean is the directive’s own for 20, 30 and 50 bars', () => {
  // x̄ ≥ Qn − 0.640 s, − 0.503 s and − 0.379 s.
  for (const [n, k] of [
    [20, 0.64],
    [30, 0.503],
    [50, 0.379],
  ] as const) {
    const random = seededRandom(n);
    const raw = Array.from({ length: n }, () => normalDraw(random));
    const mean = raw.reduce((a, b) => a + b) / n;
    const sd = Math.sqrt(raw.reduce((s, x) => s + (x - mean) ** 2, 0) / (n - 1));
    const at = (share: number) => raw.map((x) => 100_000 - share * 500 + (500 * (x - mean)) / sd);
    expect(fillControl(at(k - 0.002), 100_000).verdict).toBe('good');
    expect(fillControl(at(k + 0.002), 100_000).verdict).toBe('mean-low');
  }
});

test('what it says to change makes the mean hold and at most one in forty short', () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: 38_000, max: 52_000 }), { minLength: 3, maxLength: 40 }),
      (weights) => {
        const before = fillControl(weights, 45_000);
        const after = fillControl(
          weights.map((w) => w + before.changeMg),
          45_000,
        );
        expect(after.changeMg).toBeCloseTo(0, 6);
        expect(after.giveAwayMg).toBeGreaterThanOrEqual(-1e-6);
      },
    ),
  );
});

test('a sample with a short bar is never told to fill less', () => {
  const full = Array.from({ length: 10 }, () => 46_500);
  expect(fillControl(full, 45_000).changeMg).toBe(-1500);
  expect(fillControl([...full, 40_800], 45_000).changeMg).toBe(0);
});

test('nonsense is refused', () => {
  expect(() => fillControl([], 45_000)).toThrow(/at least one/);
  expect(() => fillControl([Number.NaN], 45_000)).toThrow(RangeError);
  expect(() => fillControl([-5], 45_000)).toThrow(RangeError);
  expect(() => fillControl([45_000], 0)).toThrow(RangeError);
  expect(() => tolerableError(Number.POSITIVE_INFINITY)).toThrow(RangeError);
});
