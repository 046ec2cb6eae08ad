import { doubtfulLoss, USUAL_LOSS, YIELD_PRIORS, type Station } from './index.ts';
import { normalDraw, seededRandom } from '../numerics/index.ts';

const kg = (n: number) => Math.round(n * 1e6);

test.each<[Station, number, number, boolean]>([
  ['roast', 14.3, 13.4, false],
  // A digit left out, two changed about, a comma slipped.
  ['roast', 14.3, 3.4, true],
  ['roast', 14.3, 1.34, true],
  ['roast', 14.3, 12.4, true],
  ['grind', 4.2, 4.1, false],
  ['grind', 4.2, 1.4, true],
  // Of a kilogram much clings to the stones.
  ['grind', 1, 0.85, false],
  ['winnow', 9, 8.9, false],
  ['winnow', 9, 7.5, true],
  // Nothing is ever left over of tasting, and beans are only taken in.
  ['taste', 1, 0.1, false],
])('%s: %d kg in, %d kg out', (station, into, out, asked) => {
  const said = doubtfulLoss(station, kg(into), kg(out));
  expect(said !== null).toBe(asked);
  if (said) {
    expect(said.share).toBeCloseTo(1 - out / into, 9);
    expect(said.low).toBeGreaterThanOrEqual(0);
    expect(said.high).toBeLessThan(said.share);
  }
});

test('of a thousand ordinary steps none is asked about, and a comma that slipped always', () => {
  const random = seededRandom(8);
  for (const station of ['roast', 'grind', 'temper'] as const) {
    expect(USUAL_LOSS[station]).not.toBeNull();
    const { mean, sd } = YIELD_PRIORS[station];
    for (let k = 0; k < 1000; k += 1) {
      const into = kg(0.5 + 30 * random());
      const out = Math.min(into, Math.round(into * (mean + sd * normalDraw(random))));
      expect(doubtfulLoss(station, into, out)).toBeNull();
      expect(doubtfulLoss(station, into, Math.round(out / 10))).not.toBeNull();
    }
  }
});

test.each([
  [0, 1],
  [NaN, 1],
  [10, -1],
  [10, Infinity],
])('%d mg in, %d mg out is refused', (into, out) => {
  expect(() => doubtfulLoss('roast', into, out)).toThrow(RangeError);
});
