import { expectedYield } from '../ledger/index.ts';
import { normalDraw, seededRandom } from '../numerics/index.ts';
import { coverageOf, surpriseOf, type Foretold } from './index.ts';

/** Forecasts whose stated spread is `claimed` times the true one. */
const drawn = (n: number, claimed: number, seed: number): Foretold[] => {
  const random = seededRandom(seed);
  return Array.from({ length: n }, () => {
    const mean = 10 * random();
    const sd = 0.5 + random();
    return { mean, sd: sd * claimed, actual: mean + sd * normalDraw(random) };
  });
};

test('what is right is rarely called wrong, and what is wrong is found with enough forecasts', () => {
  const words = (claimed: number, n: number) => {
    const counts: Record<string, number> = {};
    for (let seed = 1; seed <= 400; seed += 1) {
      const { word } = coverageOf(drawn(n, claimed, seed))!;
      counts[word] = (counts[word] ?? 0) + 1;
    }
    return (word: string) => (counts[word] ?? 0) / 400;
  };
  const right = words(1, 60);
  expect(right('about-right')).toBeGreaterThan(0.9);
  expect(words(0.5, 60)('too-sure')).toBeGreaterThan(0.95);
  expect(words(2.5, 60)('too-careful')).toBeGreaterThan(0.95);
  expect(words(1, 9)('too-few')).toBe(1);
});

test('counts, shares and medians against the same by hand', () => {
  const half = 1.2815515655;
  const list: Foretold[] = [
    { mean: 10, sd: 1, actual: 10 + half - 1e-6 },
    { mean: 10, sd: 1, actual: 10 + half + 1e-6 },
    { mean: 10, sd: 2, actual: 8 },
    { mean: 10, sd: 1, actual: 5 },
  ];
  expect(coverageOf(list)).toMatchObject({ n: 4, held: 2, share: 0.5, word: 'too-few' });
  expect(coverageOf(list)!.bias).toBeCloseTo((half - 2) / 2, 5);
  expect(surpriseOf(list[3]!)).toBe(-5);
});

test('the yields of a workshop that knows nothing of the model stay inside their ranges as often as is said', () => {
  // Lots differ, batches scatter; each batch is foretold from those before it, as the Bench does.
  const foretold: Foretold[] = [];
  for (let seed = 1; seed <= 60; seed += 1) {
    const random = seededRandom(seed * 7919);
    const level = 0.79 + 0.03 * normalDraw(random);
    const lots = Array.from({ length: 4 }, () => level + 0.012 * normalDraw(random));
    const seen: { lot: number; value: number }[] = [];
    for (let i = 0; i < 40; i += 1) {
      const lot = Math.floor(random() * 4);
      const value = lots[lot]! + 0.015 * normalDraw(random);
      const { mean, sd } = expectedYield({
        station: 'winnow',
        lot: seen.filter((s) => s.lot === lot).map((s) => s.value),
        workshop: seen.filter((s) => s.lot !== lot).map((s) => s.value),
      });
      if (i >= 3) foretold.push({ mean, sd, actual: value });
      seen.push({ lot, value });
    }
  }
  const { share, n } = coverageOf(foretold)!;
  expect(n).toBe(60 * 37);
  expect(share).toBeGreaterThan(0.75);
  expect(share).toBeLessThan(0.86);
});

test('nonsense is refused', () => {
  expect(coverageOf([])).toBeNull();
  expect(() => coverageOf([{ mean: 1, sd: 0, actual: 1 }])).toThrow(/above 0/);
  expect(() => coverageOf([{ mean: Number.NaN, sd: 1, actual: 1 }])).toThrow();
  expect(() => coverageOf([{ mean: 1, sd: 1, actual: 1 }], 1)).toThrow(/between 0 and 1/);
});
