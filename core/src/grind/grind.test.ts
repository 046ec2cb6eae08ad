import {
  checkCharge,
  forecastGrind,
  gritAt,
  grindingHours,
  hoursToAim,
  partCharge,
  type GrindCurve,
} from './index.ts';

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

describe('a charge that is too much for one machine', () => {
  const of = (minKg: number | null, maxKg: number | null) => ({
    minMg: minKg === null ? null : minKg * 1e6,
    maxMg: maxKg === null ? null : maxKg * 1e6,
  });
  test('is parted by what each holds, between as few as take it, those it fills best', () => {
    const [big, small, other] = [of(2, 9), of(1, 4), of(2, 9)];
    const parts = partCharge(9.5e6, [big, small])!;
    expect(parts.map((mg) => Math.round(mg / 1e4) / 100)).toEqual([6.58, 2.92]);
    expect(partCharge(9.5e6, [big, small, other])).toEqual([...parts, 0]);
    expect(partCharge(8e6, [small, big])).toEqual([0, 8e6]);
  });
  test('puts nothing where it would be too little, nor into what nobody knows the size of', () => {
    expect(partCharge(10e6, [of(2, 9), of(3.5, 4)])).toEqual([6.5e6, 3.5e6]);
    expect(partCharge(10e6, [of(8, 9), of(3, 4)])).toBeNull();
    expect(partCharge(10e6, [of(2, 9), of(null, null)])).toBeNull();
    expect(partCharge(1e6, [])).toBeNull();
  });
  test('comes to the whole, within every bound, for charges of any size', () => {
    let seed = 7;
    const random = () => (seed = (seed * 16_807) % 2_147_483_647) / 2_147_483_647;
    let [fit, not] = [0, 0];
    for (let n = 0; n < 400; n += 1) {
      const machines = Array.from({ length: 1 + Math.floor(random() * 4) }, () => {
        const max = 1 + random() * 9;
        return of(random() * max, max);
      });
      const massMg = Math.round(random() * 25e6) + 1;
      const parts = partCharge(massMg, machines);
      // All ways to choose some of them, tried one by one.
      const sets = Array.from({ length: 2 ** machines.length - 1 }, (_, i) =>
        machines.filter((__, k) => ((i + 1) >> k) & 1),
      );
      const able = sets.filter(
        (s) =>
          s.reduce((sum, m) => sum + m.maxMg!, 0) >= massMg &&
          s.reduce((sum, m) => sum + m.minMg!, 0) <= massMg,
      );
      if (parts === null) {
        not += 1;
        expect(able).toEqual([]);
        continue;
      }
      fit += 1;
      const used = parts.flatMap((mg, i) => (mg > 0 ? [{ mg, ...machines[i]! }] : []));
      expect(parts.reduce((a, b) => a + b, 0)).toBeCloseTo(massMg, 3);
      for (const { mg, minMg, maxMg } of used) {
        expect(mg).toBeGreaterThanOrEqual(minMg! - 1);
        expect(mg).toBeLessThanOrEqual(maxMg! + 1e-6);
      }
      expect(used).toHaveLength(Math.min(...able.map((s) => s.length)));
    }
    expect(Math.min(fit, not)).toBeGreaterThan(50);
  });
});
