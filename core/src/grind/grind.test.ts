import { checkCharge, forecastGrind, gritAt, grindingHours, hoursToAim, type GrindCurve } from './index.ts';

const curve: GrindCurve = { rate: 0.08, finest: 14, coarse: 90 };

describe('grinding curve', () => {
  test('hoursToAim inverts gritAt', () => expect(gritAt(curve, hoursToAim(curve, 20))).toBeCloseTo(20, 9));
  test('never reaches what the stones cannot', () => expect(hoursToAim(curve, 13)).toBe(Infinity));
  test('asks for more readings below three', () => {
    expect(forecastGrind({ readings: [{ hours: 1, um: 90 }], aimUm: 20 })).toEqual({ ok: false, needs: 2 });
  });
  test('recovers a curve from many exact readings', () => {
    const readings = Array.from({ length: 60 }, (_, i) => ({ hours: i, um: gritAt(curve, i) }));
    const f = forecastGrind({ readings, aimUm: 20 });
    if (!f.ok) throw new Error('expected a forecast');
    expect(f.curve.rate).toBeCloseTo(0.08, 2);
    expect(f.curve.finest).toBeCloseTo(14, 0);
    expect(f.toAim.low).toBeLessThan(hoursToAim(curve, 20));
    expect(f.toAim.high).toBeGreaterThan(hoursToAim(curve, 20));
  });
  test('the range narrows as readings come in', () => {
    const at = (n: number) => {
      const f = forecastGrind({
        readings: Array.from({ length: n }, (_, i) => ({ hours: 3 * i + 1, um: gritAt(curve, 3 * i + 1) })),
        aimUm: 22,
      });
      if (!f.ok) throw new Error('expected a forecast');
      return f.toAim.high - f.toAim.low;
    };
    expect(at(9)).toBeLessThan(at(3));
  });
  test('readings before an addition tell of the stones, those after it of the bowl', () => {
    const before = [1, 4, 8, 12, 18].map((hours) => ({ hours, um: gritAt(curve, hours), segment: 0 }));
    const after: GrindCurve = { ...curve, coarse: 60 };
    const one = { hours: 2, um: gritAt(after, 2), segment: 1 };
    const joint = forecastGrind({ readings: [...before, one], aimUm: 20 });
    if (!joint.ok) throw new Error('expected a forecast');
    expect(joint.curve.coarse).toBeCloseTo(60, -1);
    expect(joint.toAim.low).toBeLessThan(hoursToAim(after, 20));
    expect(joint.toAim.high).toBeGreaterThan(hoursToAim(after, 20));
    expect(forecastGrind({ readings: before, aimUm: 20, segment: 1 })).toEqual({ ok: false, needs: 1 });
  });
  test('the next reading is asked for where it tells most', () => {
    const f = forecastGrind({
      readings: [1, 4, 8].map((hours) => ({ hours, um: gritAt(curve, hours) })),
      aimUm: 20,
    });
    if (!f.ok) throw new Error('expected a forecast');
    const next = f.nextReading(8.5, 32);
    expect(next.hours).toBeGreaterThan(10);
    expect(next.rangeLeft).toBeLessThan(0.92);
    // Nearly as good as the best there is, and it stays where it is while one waits for it.
    const best = Math.min(
      ...Array.from({ length: 48 }, (_, i) => f.nextReading(8.5 + i / 2, 8.5 + i / 2).rangeLeft),
    );
    expect(1 - next.rangeLeft).toBeGreaterThanOrEqual(0.9 * (1 - best) - 1e-9);
    for (let from = 8.75; from <= next.hours; from += 0.25)
      expect(f.nextReading(from, 32).hours).toBe(next.hours);
    const soon = f.nextReading(8.5, 9);
    expect(soon.rangeLeft).toBeGreaterThan(next.rangeLeft);
  });
  test('refuses a reading of nothing', () =>
    expect(() => forecastGrind({ readings: [{ hours: 1, um: 0 }], aimUm: 20 })).toThrow(/above 0/));
});

test('pauses are left out and overlaps count once', () => {
  const h = 3_600_000;
  expect(
    grindingHours(0, 10 * h, [
      { from: 2 * h, to: 4 * h },
      { from: 3 * h, to: 5 * h },
      { from: 9 * h, to: null },
    ]),
  ).toBe(6);
});

test('a charge is judged against the usable range', () => {
  const otto = { minMg: 8_000_000, maxMg: 26_000_000 };
  expect([7_999_999, 8_000_000, 26_000_001].map((m) => checkCharge(m, otto))).toEqual([
    'too-little',
    'fits',
    'too-much',
  ]);
});
