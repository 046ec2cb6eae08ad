import { normalDraw, seededRandom } from '../numerics/index.ts';
import {
  boxPlan,
  corridorAt,
  degreeHours,
  dryMatter,
  dryNotes,
  fermentNotes,
  forecastDrying,
  moistureByMass,
  nextTurn,
} from './index.ts';

describe('fermenting', () => {
  test('degree-hours above 40 °C, with the crossing on the straight line', () => {
    expect(
      degreeHours([
        { hours: 0, celsius: 45 },
        { hours: 10, celsius: 45 },
      ]),
    ).toBeCloseTo(50, 9);
    // From 30 to 50 °C in 20 h: above 40 for 10 h, on average by 5 K.
    expect(
      degreeHours([
        { hours: 20, celsius: 50 },
        { hours: 0, celsius: 30 },
      ]),
    ).toBeCloseTo(50, 9);
    expect(
      degreeHours([
        { hours: 0, celsius: 50 },
        { hours: 20, celsius: 30 },
      ]),
    ).toBeCloseTo(50, 9);
    expect(
      degreeHours([
        { hours: 0, celsius: 25 },
        { hours: 90, celsius: 39 },
      ]),
    ).toBe(0);
  });
  test('a small mass that never warms is named at day 3 and gets a box plan', () => {
    const cool = [0, 24, 48, 72].map((hours, i) => ({ hours, celsius: 24 + 4 * i }));
    expect(fermentNotes(cool, [48], 71)[0]).toEqual({ code: 'too-cool-at-day-3', celsius: 36 });
    expect(boxPlan('dark').map((s) => s.celsius)).toContain(48);
    expect(boxPlan('pale').every((s) => s.fromHours < 72)).toBe(true);
  });
  test('turns are planned from the last one', () => {
    expect(nextTurn([])).toBe(48);
    expect(nextTurn([50, 73])).toBe(97);
    expect(fermentNotes([], [50], 80)).toEqual([{ code: 'turn-due', lateHours: 6 }]);
  });
  test('the corridor is straight between corners', () => {
    expect(corridorAt(12)).toEqual({ low: 25, high: 36 });
    expect(corridorAt(900)).toMatchObject({ low: 38 });
  });
});

describe('drying by weighing', () => {
  const start = { mass: 40, moisture: 55 };
  test('moisture from mass', () => {
    expect(dryMatter(start)).toBeCloseTo(18, 12);
    expect(moistureByMass(18 / 0.93, 18)).toBeCloseTo(7, 9);
    expect(() => moistureByMass(17, 18)).toThrow(/cannot be/);
    expect(() => dryMatter({ mass: 0, moisture: 50 })).toThrow(/above 0/);
  });
  const simulate = (k: number, n: number, hours: readonly number[], noise = 0, seed = 1) => {
    const random = seededRandom(seed);
    const X0 = 55 / 45;
    return hours.map((h) => ({
      hours: h,
      mass: 18 * (1 + 0.05 + (X0 - 0.05) * (Math.exp(-k * h ** n) + noise * normalDraw(random))),
    }));
  };
  test('finds the law again and the hour the target is reached', () => {
    const f = forecastDrying({ start, weighings: simulate(0.035, 1, [0, 6, 12, 24, 36, 48]) });
    if (!f.ok) throw new Error('no forecast');
    expect(f.k).toBeCloseTo(0.035, 3);
    const X7 = 7 / 93;
    const exact = -Math.log((X7 - 0.05) / (55 / 45 - 0.05)) / 0.035;
    expect(f.toTarget.median / exact).toBeCloseTo(1, 1);
    expect(f.toTarget.low).toBeLessThan(exact);
    expect(f.toTarget.high).toBeGreaterThan(exact);
    expect(f.at(0).median).toBeCloseTo(55, 6);
  });
  test('Page’s exponent is found where Lewis does not fit', () => {
    const f = forecastDrying({
      start,
      law: 'page',
      weighings: simulate(0.08, 0.75, [4, 8, 16, 24, 36, 48, 72]),
    });
    expect(f.ok && f.n).toBeCloseTo(0.75, 1);
  });
  test('mould is spoken of while there is time, and not where the bed dries well', () => {
    const noted = (k: number) => {
      const weighings = [{ hours: 0, mass: 40 }, ...simulate(k, 1, [6, 12, 20])];
      const moistures = weighings.map((w) => ({ hours: w.hours, moisture: moistureByMass(w.mass, 18) }));
      return dryNotes(moistures, undefined, forecastDrying({ start, weighings }));
    };
    // 20 % is X = 0.25: the first is there after 88 h, the second after 29.
    expect(noted(0.02)).toEqual([{ code: 'mould-ahead', hours: 28, chance: expect.any(Number) }]);
    expect(noted(0.06)).toEqual([]);
  });
  test('a bed that strays more than most has a wider range', () => {
    const width = (noise: number) => {
      const f = forecastDrying({ start, weighings: simulate(0.03, 1, [6, 12, 18, 24, 30, 36], noise, 4) });
      return f.ok ? f.toTarget.high - f.toTarget.low : Number.NaN;
    };
    expect(width(0.06)).toBeGreaterThan(1.3 * width(0));
  });
  test('too few weighings say how many are missing', () =>
    expect(forecastDrying({ start, weighings: simulate(0.03, 1, [0, 6]) })).toEqual({ ok: false, needs: 1 }));
  test('warnings', () => {
    expect(
      dryNotes([
        { hours: 0, moisture: 55 },
        { hours: 60, moisture: 25 },
        { hours: 70, moisture: 15 },
      ])[0],
    ).toMatchObject({ code: 'mould-risk' });
    expect(
      dryNotes([
        { hours: 0, moisture: 40 },
        { hours: 20, moisture: 10 },
        { hours: 30, moisture: 5.5 },
      ]),
    ).toEqual([{ code: 'too-dry', moisture: 5.5 }]);
    expect(
      dryNotes([
        { hours: 0, moisture: 40 },
        { hours: 20, moisture: 6.8 },
      ]),
    ).toEqual([{ code: 'target-reached', moisture: 6.8 }]);
    expect(dryNotes([])).toEqual([]);
  });
});
