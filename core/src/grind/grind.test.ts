import {
  checkCharge,
  forecastGrind,
  gritAt,
  grindingHours,
  hoursToAim,
  USUAL_GRIND_PRIOR,
  type GrindCurve,
} from './index.ts';
import { normalDraw, seededRandom } from '../numerics/index.ts';

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
  test('runs drawn from the prior fall in the 80 % range about as often as it says', () => {
    const random = seededRandom(11);
    let [inside, finite] = [0, 0];
    const draw = (p: { median: number; factor: number }) =>
      p.median * Math.exp(normalDraw(random) * Math.log(p.factor));
    for (let run = 0; run < 300; run += 1) {
      const truth = {
        rate: draw(USUAL_GRIND_PRIOR.rate),
        finest: draw(USUAL_GRIND_PRIOR.finest),
        coarse: draw(USUAL_GRIND_PRIOR.coarse),
      };
      const readings = [2, 8, 14, 20].map((hours) => {
        const um = gritAt(truth, hours);
        return { hours, um: Math.max(1, um + normalDraw(random) * Math.hypot(1, 0.05 * um)) };
      });
      const aim = 25;
      const f = forecastGrind({ readings, aimUm: aim, seed: run });
      const t = hoursToAim(truth, aim);
      if (!f.ok || !Number.isFinite(t) || t < 0.1) continue;
      finite += 1;
      if (t >= f.toAim.low && t <= f.toAim.high) inside += 1;
    }
    expect(inside / finite).toBeGreaterThan(0.74);
    expect(inside / finite).toBeLessThan(0.88);
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
