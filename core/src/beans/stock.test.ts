import { normalDraw, seededRandom } from '../numerics/index.ts';
import { beansForBars, landedPrice, moistureVerdict, reorder, usePace } from './index.ts';

const WEEK = 7 * 86_400_000;
const now = 200 * WEEK;

test('weekly use counts idle weeks', () => {
  const pace = usePace(
    [
      { at: now - 3.5 * WEEK, massMg: 8e6 },
      { at: now - 0.5 * WEEK, massMg: 4e6 },
    ],
    now,
  )!;
  expect(pace.weeks).toBe(4);
  expect(pace.perWeekMg).toBe(3e6);
  expect(usePace([{ at: now - 1, massMg: 1 }], now)).toBeNull();
  expect(usePace([], now)).toBeNull();
});

test('reorder point is demand over the lead time and z σ √lead', () => {
  const r = reorder({ stockMg: 44e6, pace: { perWeekMg: 4e6, sdMg: 1e6, weeks: 20 }, leadWeeks: 4, now });
  expect(r.weeksLeft).toBe(11);
  expect(r.safetyMg).toBeCloseTo(1.644854 * 1e6 * 2, -1);
  expect(r.pointMg).toBeCloseTo(16e6 + r.safetyMg, 3);
  expect((r.orderAt - now) / WEEK).toBeCloseTo((44e6 - r.pointMg) / 4e6, 9);
  expect(() =>
    reorder({ stockMg: 1, pace: { perWeekMg: 1, sdMg: 1, weeks: 2 }, leadWeeks: -1, now }),
  ).toThrow(/lead time/);
});

describe('beans for bars', () => {
  const yields = [
    { mean: 0.97, sd: 0.01 },
    { mean: 0.94, sd: 0.01 },
    { mean: 0.84, sd: 0.02 },
    { mean: 0.98, sd: 0.01 },
  ];
  const ask = { bars: 200, barMg: 60_000, beansShare: 0.7, yields };
  test('goes backwards through every yield', () => {
    const need = beansForBars(ask);
    expect(need.middleMg).toBeCloseTo((200 * 60_000 * 0.7) / (0.97 * 0.94 * 0.84 * 0.98), 3);
    expect(need.lowMg).toBeLessThan(need.middleMg);
    expect(beansForBars({ ...ask, batches: 9 }).highMg).toBeLessThan(need.highMg);
  });
  test('its 80 % range agrees with drawing the yields', () => {
    const random = seededRandom(4);
    const masses = Array.from(
      { length: 4000 },
      () => (200 * 60_000 * 0.7) / yields.reduce((p, y) => p * (y.mean + y.sd * normalDraw(random)), 1),
    ).sort((a, b) => a - b);
    const need = beansForBars(ask);
    expect(masses[400]! / need.lowMg).toBeCloseTo(1, 1);
    expect(masses[3600]! / need.highMg).toBeCloseTo(1, 1);
  });
  test('nonsense is refused', () =>
    expect(() => beansForBars({ ...ask, beansShare: 0 })).toThrow(/share of beans/));
});

test('price with freight, per kg and per bar', () =>
  expect(landedPrice({ pricePerKg: 800, freight: 12_000, arrivedMg: 60e6, beansPerBarMg: 55_000 })).toEqual({
    perKg: 1000,
    perBar: 55,
  }));
test('moisture in words', () =>
  expect([9, 7, 6.2, 5].map(moistureVerdict)).toEqual(['mould-risk', 'good', 'a-little-dry', 'shatters']));
