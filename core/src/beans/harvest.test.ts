import { normalDraw, seededRandom } from '../numerics/index.ts';
import { harvestAhead, harvestYear, type Picking } from './index.ts';

const picked = (on: string, pods: number, more: Partial<Picking> = {}): Picking => ({
  on,
  plot: 'River',
  trees: null,
  pods,
  wetMg: null,
  paid: 0,
  ...more,
});

test('a plot’s year by hand: months, pods by tree, wet beans a pod', () => {
  const year = harvestYear(
    [
      picked('2026-04-02', 120, { trees: 40, wetMg: 12_000_000, paid: 3600 }),
      picked('2026-04-20', 80, { trees: 50 }),
      picked('2026-11-03', 300, { wetMg: 36_000_000, paid: 9000 }),
      picked('2026-05-01', 900, { plot: 'Ridge' }),
      picked('2025-04-02', 999),
    ],
    2026,
  );
  expect(year.map((p) => p.plot)).toEqual(['Ridge', 'River']);
  const river = year[1]!;
  expect(river.months).toEqual([0, 0, 0, 200, 0, 0, 0, 0, 0, 0, 300, 0]);
  expect(river).toMatchObject({ pods: 500, trees: 50, podsPerTree: 10, paid: 12_600 });
  // 48 kg out of 420 weighed pods.
  expect(river.wetPerPodMg).toBeCloseTo(48_000_000 / 420, 9);
  expect(year[0]).toMatchObject({ trees: null, podsPerTree: null, wetPerPodMg: null });
});

describe('months ahead', () => {
  const years = [picked('2024-05-10', 400), picked('2025-05-12', 900), picked('2025-06-02', 100)];
  test('rest on the same months of earlier years alone', () => {
    const ahead = harvestAhead(years, '2026-04', 4);
    expect(ahead.map((m) => [m.month, m.years])).toEqual([
      ['2026-04', 1],
      ['2026-05', 2],
      ['2026-06', 2],
      ['2026-07', 2],
    ]);
    // √(401 · 901) − 1
    expect(ahead[1]!.middle).toBeCloseTo(Math.sqrt(401 * 901) - 1, 6);
    expect(ahead[0]).toMatchObject({ low: 0, middle: 0, high: 0 });
    expect(harvestAhead([...years, picked('2026-05-20', 50_000)], '2026-05', 1)[0]!.middle).toBeCloseTo(
      ahead[1]!.middle,
      9,
    );
  });
  test('nothing is foretold without a year before', () => {
    expect(harvestAhead([picked('2026-03-01', 10)], '2026-04')).toEqual([]);
    expect(harvestAhead([], '2026-04')).toEqual([]);
  });
  test('their range holds four of five months, however many years there are', () => {
    for (const known of [1, 2, 4]) {
      let [held, all] = [0, 0];
      for (let seed = 1; seed <= 800; seed += 1) {
        const random = seededRandom(seed * 31);
        // Years rich and poor, months early and late, pods counted one by one.
        const level = Math.log(30 + 900 * random());
        const podsOf = () => {
          const mean = Math.exp(level + 0.3 * normalDraw(random) + 0.33 * normalDraw(random));
          return Math.max(1, Math.round(mean + Math.sqrt(mean) * normalDraw(random)));
        };
        const before = Array.from({ length: known }, (_, y) => picked(`${2025 - y}-05-10`, podsOf()));
        const [may] = harvestAhead(before, '2026-05', 1);
        const then = podsOf();
        all += 1;
        if (then >= may!.low && then <= may!.high) held += 1;
      }
      expect(held / all).toBeGreaterThan(0.75);
      expect(held / all).toBeLessThan(0.85);
    }
  });
});

test('nonsense is refused', () => {
  expect(() => harvestYear([picked('2026-13-01', 5)], 2026)).toThrow(/YYYY-MM-DD/);
  expect(() => harvestYear([picked('2026-01-01', 0.5)], 2026)).toThrow(RangeError);
  expect(() => harvestYear([picked('2026-01-01', 5, { plot: ' ' })], 2026)).toThrow(/plot/);
  expect(() => harvestYear([picked('2026-01-01', 5, { wetMg: Number.NaN })], 2026)).toThrow(RangeError);
  expect(() => harvestAhead([], '2026-4')).toThrow(/YYYY-MM/);
});
