import { normalDraw, seededRandom } from '../numerics/index.ts';
import { beansInAt, type BeanReading } from './index.ts';

/** A log every 3 s: preheated for so long to so much, then beans that warm from 22 °C with a probe of 12 s, then let out. */
function log(preheatSeconds: number, hotC: number, outAt = Infinity): BeanReading[] {
  const random = seededRandom(9);
  let reads = 24;
  return Array.from({ length: 700 }, (_, i) => {
    const seconds = 3 * i;
    const since = seconds - preheatSeconds;
    const around =
      since < 0
        ? 24 + (hotC - 24) * (1 - Math.exp(-seconds / 90))
        : since > outAt
          ? 35
          : 22 + 110 * (1 - Math.exp(-since / 420));
    reads += (around - reads) * (1 - Math.exp(-3 / 12));
    return { seconds, celsius: reads + 0.3 * normalDraw(random) };
  });
}

test.each([
  [300, 180],
  [600, 210],
  [900, 150],
  [420, 120],
])('beans put in after %i s of preheating to %i °C are found', (preheat, hot) => {
  const found = beansInAt(log(preheat, hot))!;
  expect(Math.abs(found - preheat)).toBeLessThanOrEqual(15);
  // Beans let out later fall too, and rise no more.
  expect(beansInAt(log(preheat, hot, 900))).toBe(found);
});

test('a log that begins with the beans tells of no such moment, whether the probe was hot or not', () => {
  expect(beansInAt(log(0, 0))).toBeNull();
  const hot = log(600, 200).flatMap((r) => (r.seconds >= 600 ? [{ ...r, seconds: r.seconds - 600 }] : []));
  expect(beansInAt(hot)).toBeNull();
});

test('neither do a door that is opened, a spark, a steady oven and an empty log', () => {
  const warming = log(0, 0);
  expect(beansInAt(warming.map((r) => (r.seconds === 900 ? { ...r, celsius: -50 } : r)))).toBeNull();
  expect(
    beansInAt(warming.map((r) => ({ ...r, celsius: r.celsius - (Math.abs(r.seconds - 900) < 30 ? 12 : 0) }))),
  ).toBeNull();
  expect(beansInAt(warming.map((r) => ({ ...r, celsius: 130 })))).toBeNull();
  expect(beansInAt([])).toBeNull();
  expect(() => beansInAt([{ seconds: 0, celsius: Number.NaN }])).toThrow(RangeError);
});
