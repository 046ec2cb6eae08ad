import { normalDraw, seededRandom } from '../numerics/index.ts';
import { bowlLasts, crystallise, STIRRED, VERDICT_LIMITS, type HeldBowl } from './index.ts';

const held: HeldBowl = { stable: 0.012, unstable: 0.0005, celsius: 31.4, type: 'dark', coolC: 27.5 };

test('warmer it lasts longer, with more crystals shorter; pieces of seed may be more; too thick is over at once', () => {
  const middle = (part: Partial<HeldBowl>) => bowlLasts({ ...held, ...part })?.middle ?? Infinity;
  expect(middle({ celsius: 31.8 })).toBeGreaterThan(middle({}));
  expect(middle({ stable: 0.018 })).toBeLessThan(middle({}));
  expect(middle({ stable: 0.02, full: VERDICT_LIMITS.fullSeeded })).toBeGreaterThan(middle({ stable: 0.02 }));
  expect(bowlLasts({ ...held, stable: 0.03 })).toEqual({ low: 0, middle: 0, high: 0 });
  expect(bowlLasts({ ...held, stable: 0.004, celsius: 33 })).toBeNull();
});

test('its range holds about four of five bowls stirred, read and paced otherwise', () => {
  const random = seededRandom(11);
  const normal = () => normalDraw(random);
  const { low, high } = bowlLasts(held)!;
  const bowls = 400;
  let inside = 0;
  for (let i = 0; i < bowls; i += 1) {
    const stirring = Math.min(1, Math.max(0, STIRRED.gentle + 0.2 * normal()));
    const celsius = held.celsius + 0.3 * normal();
    const run = crystallise({
      path: [0, 120].map((minutes) => ({ minutes, celsius, stirring })),
      start: { unstable: held.unstable, stable: held.stable },
      sampleEvery: 30,
      pace: {
        nucleation: Math.exp(0.2 * normal()),
        growth: Math.exp(0.2 * normal()),
        melting: Math.exp(0.2 * normal()),
      },
    });
    const k = run.stable.findIndex((s) => s >= VERDICT_LIMITS.full);
    const truth = k < 0 ? Infinity : run.minutes[k]!;
    if (truth >= low && truth <= high) inside += 1;
  }
  expect(inside / bowls).toBeGreaterThan(0.75);
  expect(inside / bowls).toBeLessThan(0.85);
});

test('nonsense is refused', () => {
  expect(() => bowlLasts({ ...held, stable: 1.5 })).toThrow('stable share');
  expect(() => bowlLasts({ ...held, celsius: NaN })).toThrow('temperature');
  expect(() => bowlLasts({ ...held, horizonMinutes: 0 })).toThrow('horizon');
});
