import { beansOwn, roastDose, untilBeansOut } from './index.ts';

const START = '2026-11-21T08:00:00Z';
const at = (seconds: number) => new Date(Date.parse(START) + seconds * 1000).toISOString();
const out = (seconds: number) => [
  { name: 'stirred', at: at(300) },
  { name: 'beans-out', at: at(seconds) },
];

/** Beans that reach 125 °C in 25 min, out then; the probe stays in the drum, which goes back to 190 °C. */
const log = Array.from({ length: 211 }, (_, i) => {
  const seconds = 10 * i;
  return {
    seconds,
    celsius: seconds <= 1500 ? 25 + seconds / 15 : Math.min(190, 125 + (seconds - 1500) / 4),
  };
});

test('an empty drum roasts nothing: the dose is that of the beans', () => {
  const whole = roastDose(beansOwn(log.filter((r) => r.seconds <= 1500)).readings);
  const kept = untilBeansOut(log, out(1500), START);
  expect(kept.at(-1)!.seconds).toBeLessThanOrEqual(1505);
  expect(roastDose(beansOwn(kept).readings)).toBeCloseTo(whole, 6);
  // Counted along, ten minutes in the drum were more than the roast.
  expect(roastDose(beansOwn(log).readings)).toBeGreaterThan(2 * whole);
});

test('while the beans are in all of it counts, and the last note of them coming out is the one that counts', () => {
  expect(untilBeansOut(log, [{ name: 'stirred', at: at(300) }], START)).toEqual(log);
  expect(untilBeansOut(log, [...out(600), ...out(1500)], START).at(-1)!.seconds).toBe(1500);
});

test('a log that lies after it as a whole stays: its clock was another', () => {
  const late = log.map((r) => ({ ...r, seconds: r.seconds + 7200 }));
  expect(untilBeansOut(late, out(1500), START)).toEqual(late);
  expect(untilBeansOut([], out(1500), START)).toEqual([]);
});

test('instants that are none are refused', () => {
  expect(() => untilBeansOut(log, [{ name: 'beans-out', at: 'noon' }], START)).toThrow(RangeError);
  expect(() => untilBeansOut(log, out(1500), '')).toThrow(RangeError);
});
