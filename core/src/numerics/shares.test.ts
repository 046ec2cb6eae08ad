import { seededRandom } from './random.ts';
import { partsInSteps, sharesInSteps } from './shares.ts';

test('what halves a step goes to the smaller, and all still come to the whole', () => {
  expect(sharesInSteps([0.875, 0.125], 0.05)).toEqual([17, 3]);
  expect(sharesInSteps([1], 0.05)).toEqual([20]);
  expect(sharesInSteps([], 0.05)).toEqual([]);
  expect(sharesInSteps([0.1, 0.7, 0.2], 0.1)).toEqual([1, 7, 2]);
});

test('of whatever shares none is a step off, and the sum is that of all rounded once', () => {
  const random = seededRandom(5);
  for (let k = 0; k < 2000; k += 1) {
    const parts = Array.from({ length: 1 + Math.floor(random() * 5) }, () => random());
    const of = parts.reduce((a, b) => a + b, 0) / (random() < 0.5 ? 1 : random());
    const shares = parts.map((p) => p / of);
    const steps = sharesInSteps(shares, 0.05);
    expect(steps.reduce((a, b) => a + b, 0)).toBe(Math.round(shares.reduce((a, b) => a + b, 0) / 0.05));
    for (const [i, share] of shares.entries())
      expect(Math.abs(steps[i]! - share / 0.05)).toBeLessThan(1 + 1e-9);
  }
});

test('nonsense is refused', () => {
  expect(() => sharesInSteps([0.5, Number.NaN], 0.05)).toThrow('share 2 must be a number');
  expect(() => sharesInSteps([-0.1], 0.05)).toThrow('0 or more');
  expect(() => sharesInSteps([0.5], 0)).toThrow('above 0');
});

test('parts of either sign still come to the whole', () => {
  expect(partsInSteps([57.4, 87.4, 3.4], 1)).toEqual([57, 87, 4]);
  expect(partsInSteps([57.4, 6.4, -0.4], 1)).toEqual([57, 6, 0]);
  const random = seededRandom(6);
  for (let k = 0; k < 2000; k += 1) {
    const parts = Array.from({ length: 8 }, () => 200 * (random() - 0.3));
    const coins = partsInSteps(parts, 1);
    expect(coins.reduce((a, b) => a + b, 0)).toBe(Math.round(parts.reduce((a, b) => a + b, 0)));
    for (const [i, part] of parts.entries()) expect(Math.abs(coins[i]! - part)).toBeLessThan(1 + 1e-9);
  }
});
