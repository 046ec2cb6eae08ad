import { normalDraw, seededRandom } from '../numerics/index.ts';
import { LONG_RUN, yieldChart, YIELDS_NEEDED } from './index.ts';

const series = (values: readonly number[]) =>
  values.map((value, k) => ({ id: `b${k}`, at: `2026-01-${String(k + 1).padStart(2, '0')}`, value }));

test('limits are the middle and 2.66 mean moving ranges, as in the textbook’s arithmetic', () => {
  // x̄ = 5, MR̄ = (1+2+3+1+2+1+2)/7 = 12/7.
  const { limits } = yieldChart(series([5, 4, 6, 3, 4, 6, 5, 7]));
  expect(limits!.centre).toBeCloseTo(5, 12);
  expect(limits!.upper - limits!.centre).toBeCloseTo((2.6595744680851063 * 12) / 7, 9);
  expect(limits!.centre - limits!.lower).toBeCloseTo(limits!.upper - limits!.centre, 12);
});

test('chance alone is seldom beyond: about 3 in 1,000', () => {
  const random = seededRandom(8);
  let [beyond, of] = [0, 0];
  for (let k = 0; k < 400; k += 1) {
    const { points } = yieldChart(
      Array.from({ length: 40 }, (_, i) => ({
        id: `${i}`,
        at: String(i).padStart(3, '0'),
        value: 0.8 + 0.01 * normalDraw(random),
      })),
    );
    beyond += points.filter((p) => p.signal === 'beyond').length;
    of += points.length;
  }
  expect(beyond / of).toBeGreaterThan(0.0012);
  expect(beyond / of).toBeLessThan(0.006);
});

test('one batch that lost a tray stands out; a winnower that drifted shows as a run', () => {
  const steady = [0.8, 0.79, 0.81, 0.8, 0.79, 0.81, 0.8, 0.79, 0.81, 0.8];
  const lost = yieldChart(series([...steady, 0.6]));
  expect(lost.points.filter((p) => p.signal).map((p) => p.id)).toEqual(['b10']);
  const drifted = yieldChart(
    series([...steady, ...Array.from({ length: 10 }, (_, k) => 0.815 + 0.001 * (k % 2))]),
  );
  const runs = drifted.points.filter((p) => p.signal === 'run').map((p) => p.id);
  // Eight after the change it is said, and goes on being said.
  expect(runs.slice(-3)).toEqual([10 + LONG_RUN - 1, 18, 19].map((k) => `b${k}`));
});

test('few yields have no limits, equal ones no signal, and nonsense is refused', () => {
  expect(yieldChart(series([0.8, 0.7])).limits).toBeNull();
  expect(yieldChart([])).toEqual({ limits: null, points: [] });
  const same = yieldChart(series(Array.from({ length: YIELDS_NEEDED }, () => 0.1 + 0.2)));
  expect(same.points.every((p) => p.signal === null)).toBe(true);
  expect(() => yieldChart(series([NaN]))).toThrow('yield of b0');
});
