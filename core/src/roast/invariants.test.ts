import fc from 'fast-check';
import { often } from '../testing/index.ts';
import {
  beanExpectedAt,
  makeBean,
  makeOven,
  simulateRoast,
  type RoastEvent,
  type RoastPlan,
} from './index.ts';

const plan: fc.Arbitrary<RoastPlan> = fc
  .array(
    fc.record({
      name: fc.constant('stage'),
      setC: fc.integer({ min: 90, max: 190 }),
      minutes: fc.integer({ min: 2, max: 15 }),
      fan: fc.boolean(),
    }),
    { minLength: 1, maxLength: 4 },
  )
  .map((stages) => ({ name: 'any', stages }));

const events: fc.Arbitrary<RoastEvent[]> = fc.array(
  fc.record({
    seconds: fc.integer({ min: 10, max: 1500 }),
    kind: fc.constantFrom('door' as const, 'stir' as const),
    lasts: fc.integer({ min: 5, max: 60 }),
  }),
  { maxLength: 5 },
);

const problem = fc.record({
  bean: fc
    .record({
      moisture: fc.double({ min: 4, max: 9, noNaN: true }),
      beansPer100g: fc.integer({ min: 70, max: 130 }),
    })
    .map((facts) => makeBean(facts)),
  oven: fc
    .record({
      kind: fc.constantFrom('still' as const, 'fan' as const, 'drum' as const),
      usableKg: fc.integer({ min: 1, max: 8 }),
    })
    .map((facts) => makeOven(facts)),
  plan,
  loadKg: fc.double({ min: 0.2, max: 5, noNaN: true }),
  roomC: fc.integer({ min: 12, max: 32 }),
  events,
});

test('whatever the oven, the load, the plan and the hands: energy closes, and nothing runs against nature', () => {
  fc.assert(
    fc.property(problem, (p) => {
      const run = simulateRoast(p);
      expect(Math.abs(run.energy.residual)).toBeLessThan(0.001);
      const hottest = Math.max(p.roomC, ...p.plan.stages.map((s) => s.setC));
      for (let i = 0; i < run.seconds.length; i += 1) {
        // Between the room and the hottest setting, with the overshoot of a lagging thermostat in a strong, nearly empty oven.
        for (const c of [run.air[i]!, run.surface[i]!, run.centre[i]!, run.bean[i]!]) {
          expect(c).toBeGreaterThan(p.roomC - 3);
          expect(c).toBeLessThan(hottest + 30);
        }
        if (i === 0) continue;
        // Water leaves, acid goes, dose and lethality only grow.
        expect(run.moisture[i]!).toBeLessThanOrEqual(run.moisture[i - 1]! + 1e-9);
        expect(run.acid[i]!).toBeLessThanOrEqual(run.acid[i - 1]! + 1e-12);
        expect(run.dose[i]!).toBeGreaterThanOrEqual(run.dose[i - 1]! - 1e-12);
        expect(run.logReduction[i]!).toBeGreaterThanOrEqual(run.logReduction[i - 1]! - 1e-12);
      }
      // What left as water is what the beans have lost.
      expect(run.lossShare).toBeGreaterThanOrEqual(0);
      expect(run.lossShare).toBeLessThan(0.1);
    }),
    { numRuns: often(30, 400), seed: 6 },
  );
});

test('held at one setting, a larger load in the same oven is never warmer', () => {
  fc.assert(
    fc.property(problem, (p) => {
      const quiet = { ...p, events: [], plan: { name: 'hold', stages: p.plan.stages.slice(0, 1) } };
      const [small, large] = [
        simulateRoast({ ...quiet, loadKg: 0.5 }),
        simulateRoast({ ...quiet, loadKg: 4 }),
      ];
      const last = Math.min(small.seconds.length, large.seconds.length) - 1;
      expect(large.bean[last]!).toBeLessThanOrEqual(small.bean[last]! + 0.5);
      expect(large.dose[last]!).toBeLessThanOrEqual(small.dose[last]! * 1.02 + 1e-6);
    }),
    { numRuns: often(15, 200), seed: 7 },
  );
});

test('an open door costs heat', () => {
  fc.assert(
    fc.property(problem, fc.integer({ min: 60, max: 300 }), (p, seconds) => {
      const shut = simulateRoast({ ...p, events: [] });
      const open = simulateRoast({ ...p, events: [{ seconds, kind: 'door', lasts: 60 }] });
      const at = shut.seconds.findIndex((s) => s >= seconds + 60);
      if (at < 0 || at >= open.air.length) return;
      expect(open.air[at]!).toBeLessThanOrEqual(shut.air[at]! + 0.2);
    }),
    { numRuns: often(15, 200), seed: 8 },
  );
});

describe('the forecast read between its points', () => {
  const line = [0, 60, 180].map((seconds) => ({
    seconds,
    median: 20 + seconds / 2,
    low: 18 + seconds / 2,
    high: 22 + seconds,
    air: 120,
  }));

  test('on a point, between two, and beyond either end', () => {
    expect(beanExpectedAt({ line }, 60)).toMatchObject({ median: 50, low: 48, high: 82 });
    expect(beanExpectedAt({ line }, 90)).toEqual({ median: 65, low: 63, high: 112 });
    expect(beanExpectedAt({ line }, -5)).toMatchObject({ median: 20 });
    expect(beanExpectedAt({ line }, 999)).toMatchObject({ median: 110 });
  });

  test('the range is never turned inside out', () =>
    fc.assert(
      fc.property(fc.double({ min: -10, max: 300, noNaN: true }), (seconds) => {
        const { low, median, high } = beanExpectedAt({ line }, seconds);
        expect(low).toBeLessThanOrEqual(median);
        expect(median).toBeLessThanOrEqual(high);
      }),
    ));
});
