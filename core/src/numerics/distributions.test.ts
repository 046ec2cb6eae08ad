import fc from 'fast-check';
import {
  betaQuantile,
  betaTail,
  binomialInterval,
  chiSquareTail,
  mean,
  normalCdf,
  normalDraw,
  normalQuantile,
  quantile,
  sampleSd,
  seededRandom,
  studentQuantile,
} from './index.ts';

describe('against the printed tables', () => {
  test.each([
    [1, 3.8415],
    [2, 5.9915],
    [3, 7.8147],
    [10, 18.307],
    [30, 43.773],
  ])('χ² with %s degrees of freedom is above %s once in twenty', (df, x) =>
    expect(chiSquareTail(x, df)).toBeCloseTo(0.05, 4),
  );

  test.each([
    [1, 12.706],
    [2, 4.303],
    [5, 2.571],
    [10, 2.228],
    [30, 2.042],
    [120, 1.98],
  ])('Student’s t with %s degrees of freedom: %s', (df, t) =>
    expect(studentQuantile(0.975, df)).toBeCloseTo(t, 3),
  );

  test.each([
    [0.5, 0],
    [0.9, 1.281552],
    [0.975, 1.959964],
    [0.995, 2.575829],
    [0.0005, -3.290527],
  ])('the normal quantile of %s is %s', (p, z) => {
    expect(normalQuantile(p)).toBeCloseTo(z, 5);
    expect(normalCdf(z)).toBeCloseTo(p, 5);
  });
});

test('the beta distribution where it can be written down: uniform, and powers', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0.01, max: 0.99, noNaN: true }),
      fc.double({ min: 0.3, max: 30, noNaN: true }),
      (x, a) => {
        expect(betaTail(x, 1, 1)).toBeCloseTo(1 - x, 8);
        expect(betaTail(x, a, 1)).toBeCloseTo(1 - x ** a, 6);
        expect(betaQuantile(x, a, 1)).toBeCloseTo(x ** (1 / a), 5);
      },
    ),
    { seed: 1 },
  );
});

/** P(X ≥ k) for a binomial, summed term by term. */
function binomialTail(k: number, n: number, p: number): number {
  let sum = 0;
  let log = n * Math.log1p(-p);
  for (let i = 0; i <= n; i += 1) {
    if (i >= k) sum += Math.exp(log);
    log += Math.log((n - i) / (i + 1)) + Math.log(p) - Math.log1p(-p);
  }
  return sum;
}

test('the exact interval’s ends are where the binomial tails, summed, are what the confidence leaves', () => {
  fc.assert(
    fc.property(
      fc
        .integer({ min: 2, max: 300 })
        .chain((n) => fc.tuple(fc.integer({ min: 1, max: n - 1 }), fc.constant(n))),
      fc.constantFrom(0.8, 0.9, 0.95, 0.99),
      ([k, n], confidence) => {
        const [low, high] = binomialInterval(k, n, confidence);
        const tail = (1 - confidence) / 2;
        expect(binomialTail(k, n, low)).toBeCloseTo(tail, 5);
        expect(1 - binomialTail(k + 1, n, high)).toBeCloseTo(tail, 5);
        expect(low).toBeLessThan(k / n);
        expect(high).toBeGreaterThan(k / n);
      },
    ),
    { seed: 2, numRuns: 60 },
  );
});

test('none of n: nothing below, and above what n clean ones still allow', () => {
  const [low, high] = binomialInterval(0, 59);
  expect(low).toBe(0);
  expect(high).toBeCloseTo(1 - 0.025 ** (1 / 59), 10);
  expect(binomialInterval(59, 59)).toEqual([expect.closeTo(0.025 ** (1 / 59), 8), 1]);
});

test.each<[string, () => unknown]>([
  ['a probability of 1', () => normalQuantile(1)],
  ['no degrees of freedom', () => chiSquareTail(1, 0)],
  ['t without degrees of freedom', () => studentQuantile(0.5, 0)],
  ['more successes than trials', () => binomialInterval(4, 3)],
  ['half a success', () => binomialInterval(1.5, 3)],
  ['no trials', () => binomialInterval(0, 0)],
  ['a beta of nothing', () => betaTail(0.5, 0, 1)],
  ['a beta quantile of 0', () => betaQuantile(0, 1, 1)],
])('%s is refused in words', (_, ask) => expect(ask).toThrow(RangeError));

describe('seeded randomness', () => {
  test('the same seed gives the same numbers, another seed others', () => {
    const take = (seed: number) => {
      const random = seededRandom(seed);
      return Array.from({ length: 5 }, random);
    };
    expect(take(7)).toEqual(take(7));
    expect(take(7)).not.toEqual(take(8));
  });

  test('it is even: ten thousand draws fill a hundred bins as χ² allows', () => {
    const random = seededRandom(2026);
    const bins = new Array<number>(100).fill(0);
    for (let i = 0; i < 10_000; i += 1) bins[Math.floor(random() * 100)]! += 1;
    const chiSquare = bins.reduce((sum, n) => sum + (n - 100) ** 2 / 100, 0);
    expect(chiSquareTail(chiSquare, 99)).toBeGreaterThan(0.001);
    expect(chiSquareTail(chiSquare, 99)).toBeLessThan(0.999);
  });

  test('normal draws have the moments of a normal', () => {
    const random = seededRandom(11);
    const draws = Array.from({ length: 20_000 }, () => normalDraw(random));
    expect(mean(draws)).toBeCloseTo(0, 1.5);
    expect(sampleSd(draws)).toBeCloseTo(1, 1.5);
    expect(mean(draws.map((d) => d ** 4))).toBeGreaterThan(2.8);
    expect(mean(draws.map((d) => d ** 4))).toBeLessThan(3.2);
    // 95 % lie within 1.96.
    expect(draws.filter((d) => Math.abs(d) < 1.96).length / draws.length).toBeCloseTo(0.95, 2);
  });
});

describe('summaries', () => {
  test('quantiles by linear interpolation between order statistics', () => {
    const values = [15, 20, 35, 40, 50];
    expect(quantile(values, 0)).toBe(15);
    expect(quantile(values, 0.4)).toBeCloseTo(29, 10);
    expect(quantile(values, 0.5)).toBe(35);
    expect(quantile(values, 1)).toBe(50);
  });

  test('a quantile lies among its values and grows with p, whatever their order', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -1e6, max: 1e6, noNaN: true }), { minLength: 1, maxLength: 40 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (values, p, q) => {
          const [low, high] = [Math.min(p, q), Math.max(p, q)];
          expect(quantile(values, low)).toBeLessThanOrEqual(quantile(values, high) + 1e-9);
          expect(quantile(values, p)).toBeCloseTo(quantile([...values].reverse(), p), 6);
          expect(quantile(values, p)).toBeGreaterThanOrEqual(Math.min(...values));
          expect(quantile(values, p)).toBeLessThanOrEqual(Math.max(...values));
        },
      ),
      { seed: 3 },
    );
  });

  test('an endless value among them is no hindrance', () =>
    expect(quantile([1, 2, Number.POSITIVE_INFINITY], 0.5)).toBe(2));

  test('the spread of one value is not known', () => {
    expect(sampleSd([3])).toBeNaN();
    expect(sampleSd([2, 4, 4, 4, 5, 5, 7, 9])).toBeCloseTo(2.13809, 5);
  });
});
