import { normalDraw, seededRandom } from '../numerics/index.ts';
import { believable } from './index.ts';

const bounds = { slack: 4, fastest: 1, settles: 12 };

/** A bowl that cools from 45 towards 27 °C, read every two seconds. */
const bowl = (minutes = 10, noise = 0.1) => {
  const random = seededRandom(4);
  return Array.from({ length: minutes * 30 }, (_, i) => ({
    seconds: 2 * i,
    celsius: 27 + 18 * Math.exp(-i / 120) + noise * normalDraw(random),
  }));
};
const withFault = (from: number, count: number, value: (i: number) => number) =>
  bowl().map((r, i) => (i >= from && i < from + count ? { ...r, celsius: value(i) } : r));

test.each([
  ['one spark', 1, () => 300],
  ['a probe that restarts at 85 for some readings', 5, () => 85],
  ['an open plug that jumps about', 6, (i: number) => (i % 2 ? 0 : 1023)],
  ['a short circuit', 4, () => -127],
])('%s is left out, and nothing else', (_, count, value) => {
  const found = believable(withFault(100, count, value), bounds);
  expect(found).toEqual(bowl().filter((__, i) => i < 100 || i >= 100 + count));
});

test('a series that begins or ends with a fault keeps the rest', () => {
  expect(
    believable(
      withFault(0, 2, () => 85),
      bounds,
    ),
  ).toEqual(bowl().slice(2));
  expect(
    believable(
      withFault(297, 3, () => 85),
      bounds,
    ),
  ).toEqual(bowl().slice(0, 297));
});

test('what jumps and stays is so from its first reading on: two thirds come back from the marble', () => {
  const mixed = bowl().map((r, i) => (i < 150 ? r : { ...r, celsius: r.celsius - 12 }));
  expect(believable(mixed, bounds)).toEqual(mixed);
  // Until it is seen to stay, nothing is said.
  expect(believable(mixed.slice(0, 153), bounds)).toHaveLength(150);
});

test('what hands typed stands, however fast one after the other, and however few or many there are', () => {
  const typed = [45, 27, 34.1, 31, 85, 22, 45, 27, 34.1, 31, 85, 22, 31].map((celsius, i) => ({
    seconds: 2 * i,
    celsius,
  }));
  expect(believable(typed.slice(0, 11), bounds)).toEqual(typed.slice(0, 11));
  const byHand = typed.map((r) => ({ ...r, byHand: true }));
  expect(believable(byHand, bounds)).toEqual(byHand);
  // Among those of a probe, too, and the probe is judged by its own.
  const both = [...withFault(100, 5, () => 85), { seconds: 250.5, celsius: 70, byHand: true }].sort(
    (a, b) => a.seconds - b.seconds,
  );
  const found = believable(both, bounds);
  expect(found.filter((r) => 'byHand' in r)).toHaveLength(1);
  expect(found).toHaveLength(both.length - 5);
});

test('other things a reading carries stay with it; none gives none; nonsense is refused', () => {
  expect(believable([{ seconds: 0, celsius: 20, by: 'AK' }], bounds)).toEqual([
    { seconds: 0, celsius: 20, by: 'AK' },
  ]);
  expect(believable([], bounds)).toEqual([]);
  expect(() => believable([{ seconds: 0, celsius: Number.NaN }], bounds)).toThrow(RangeError);
  for (const name of ['slack', 'fastest', 'settles'] as const)
    expect(() => believable(bowl(), { ...bounds, [name]: 0 })).toThrow(/above 0/);
});
