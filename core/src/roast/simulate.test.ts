import fc from 'fast-check';
import {
  beanRadius,
  makeBean,
  makeOven,
  relativeRate,
  runAt,
  simulateRoast,
  STARTER_PLANS,
  type Bean,
  type RoastPlan,
} from './index.ts';

/** An oven so large and quick that its air stays where it is set. */
const steadyOven = { ...makeOven(), heatCapacity: 1e12, wallLoss: 0, offset: 0 };
const hold = (setC: number, minutes: number): RoastPlan => ({
  name: 'hold',
  stages: [{ name: 'hold', setC, minutes, fan: true }],
});
const noDrying = (bean: Bean): Bean => ({ ...bean, dryingRate: 0 });

test('100 beans per 100 g are spheres of 6.1 mm', () => expect(beanRadius(100) * 1000).toBeCloseTo(6.1, 1));

test('a bean of one temperature and no drying follows the lumped exponential', () => {
  const bean = { ...noDrying(makeBean({ moisture: 7 })), conductivity: 1e6 };
  const run = simulateRoast({
    bean,
    oven: steadyOven,
    plan: hold(120, 30),
    loadKg: 1,
    step: 0.25,
    roomC: 20,
  });
  const heat =
    (bean.mass / (1 + bean.moisture)) * (bean.heatCapacityDry + bean.heatCapacityWater * bean.moisture);
  const tau = heat / (30 * 4 * Math.PI * bean.radius ** 2);
  for (const seconds of [60, 300, 900])
    expect(runAt(run, 'bean', seconds)).toBeCloseTo(120 - 100 * Math.exp(-seconds / tau), 1);
});

describe('at Bi = 0.7 the centre follows the first term of the sphere’s series', () => {
  // θ = C₁ e^(−ζ₁² Fo), ζ₁ = 1.35252, C₁ = 1.19776; the later terms are gone once Fo > 0.3.
  const bean = noDrying(makeBean({ moisture: 0 }));
  const transfer = (0.7 * bean.conductivity) / bean.radius;
  const volume = (4 / 3) * Math.PI * bean.radius ** 3;
  const diffusivity = bean.conductivity / ((bean.mass / volume) * bean.heatCapacityDry);
  const centre = (shells: number, step: number, fo: number) => {
    const seconds = (fo * bean.radius ** 2) / diffusivity;
    const run = simulateRoast({
      bean,
      oven: { ...steadyOven, transfer },
      plan: hold(120, 60),
      loadKg: 1,
      roomC: 20,
      shells,
      step,
      sampleEvery: step,
      until: seconds + 2 * step,
    });
    return (120 - runAt(run, 'centre', seconds)) / 100;
  };
  const series = (fo: number) => 1.19776 * Math.exp(-(1.35252 ** 2) * fo);
  test.each([0.4, 0.8, 1.5])('Fo = %f', (fo) => expect(centre(40, 0.2, fo) / series(fo)).toBeCloseTo(1, 2));
  test('finer shells and steps come closer', () => {
    const errors = [
      [10, 2],
      [20, 1],
      [40, 0.5],
      [80, 0.25],
    ].map(([n, dt]) => Math.abs(centre(n!, dt!, 0.8) - series(0.8)));
    errors.slice(1).forEach((e, i) => expect(e).toBeLessThan(errors[i]! * 0.75));
  });
  test('the shells and step in use are within 0.3 K of a fine grid on a real roast', () => {
    const common = {
      bean: makeBean(),
      oven: makeOven({ usableKg: 3 }),
      plan: STARTER_PLANS[0]!,
      loadKg: 2.5,
    };
    const [used, fine] = [simulateRoast(common), simulateRoast({ ...common, shells: 60, step: 0.2 })];
    for (const seconds of [200, 600, 1500])
      expect(Math.abs(runAt(used, 'bean', seconds) - runAt(fine, 'bean', seconds))).toBeLessThan(0.3);
  });
});

test('energy closes within 0.1 % for any oven, load, bean and plan', () => {
  const stage = fc.record({
    name: fc.constant('s'),
    setC: fc.double({ min: 80, max: 200, noNaN: true }),
    minutes: fc.double({ min: 1, max: 20, noNaN: true }),
    fan: fc.boolean(),
  });
  fc.assert(
    fc.property(
      fc.array(stage, { minLength: 1, maxLength: 4 }),
      fc.double({ min: 0.2, max: 10, noNaN: true }),
      fc.double({ min: 0, max: 12, noNaN: true }),
      fc.double({ min: 60, max: 150, noNaN: true }),
      fc.array(
        fc.record({
          kind: fc.constantFrom('door' as const, 'stir' as const),
          seconds: fc.double({ min: 0, max: 900, noNaN: true }),
        }),
        { maxLength: 3 },
      ),
      (stages, loadKg, moisture, beansPer100g, events) => {
        const run = simulateRoast({
          bean: makeBean({ moisture, beansPer100g }),
          oven: makeOven({ usableKg: 3 }),
          plan: { name: 'p', stages },
          loadKg,
          events,
        });
        expect(Math.abs(run.energy.residual)).toBeLessThan(1e-3);
      },
    ),
    { numRuns: 60 },
  );
});

test('drying alone at a held temperature follows its first-order law', () => {
  const bean = { ...makeBean({ moisture: 7 }), heatOfDrying: 0, conductivity: 1e6 };
  const run = simulateRoast({
    bean,
    oven: { ...steadyOven, transfer: 1e5 },
    plan: hold(110, 20),
    loadKg: 1,
    roomC: 110,
  });
  const X =
    bean.equilibriumMoisture +
    (bean.moisture - bean.equilibriumMoisture) *
      Math.exp(-bean.dryingRate * relativeRate(110, bean.dryingEnergy) * 1200);
  expect(run.moisture.at(-1)!).toBeCloseTo((100 * X) / (1 + X), 3);
});

describe('a roast as people know it', () => {
  const common = { bean: makeBean(), oven: makeOven({ usableKg: 3 }), plan: STARTER_PLANS[0]! };
  test('loses 4–8 % of its mass, and the core lags behind the surface', () => {
    const run = simulateRoast({ ...common, loadKg: 2.5 });
    expect(run.lossShare).toBeGreaterThan(0.035);
    expect(run.lossShare).toBeLessThan(0.08);
    expect(runAt(run, 'centre', 300)).toBeLessThan(runAt(run, 'surface', 300));
    expect(run.endSeconds).toBe(35 * 60);
  });
  test('a full load drags the air down and comes later than a small one', () => {
    const [small, full] = [0.5, 3].map((loadKg) => simulateRoast({ ...common, loadKg }));
    expect(runAt(full!, 'air', 150)).toBeLessThan(runAt(small!, 'air', 150) - 5);
    expect(runAt(full!, 'bean', 600)).toBeLessThan(runAt(small!, 'bean', 600) - 0.5);
  });
  test('an open door and cooling show', () => {
    const base = simulateRoast({ ...common, loadKg: 2 });
    const door = simulateRoast({ ...common, loadKg: 2, events: [{ seconds: 600, kind: 'door', lasts: 40 }] });
    expect(runAt(door, 'air', 640)).toBeLessThan(runAt(base, 'air', 640) - 4);
    const cool = simulateRoast({
      ...common,
      loadKg: 2,
      until: 45 * 60,
      events: [{ seconds: 35 * 60, kind: 'cool' }],
    });
    expect(cool.bean.at(-1)!).toBeLessThan(40);
  });
  test('a stage can end on bean temperature or by hand', () => {
    const stages = [
      { name: 'a', setC: 150, minutes: 30, fan: true, endBeanC: 100 },
      { name: 'b', setC: 110, minutes: 5, fan: true },
    ];
    const run = simulateRoast({ ...common, plan: { name: 'x', stages }, loadKg: 1 });
    expect(runAt(run, 'bean', run.stageStarts[1]!)).toBeGreaterThanOrEqual(99);
    expect(run.endSeconds).toBeCloseTo(run.stageStarts[1]! + 300, 6);
    const hand = simulateRoast({ ...common, loadKg: 1, events: [{ seconds: 120, kind: 'next-stage' }] });
    expect(hand.stageStarts[1]).toBe(120);
  });
  test('nonsense is refused in words', () => {
    expect(() => simulateRoast({ ...common, loadKg: 0 })).toThrow(/above 0 kg/);
    expect(() => makeBean({ moisture: 80 })).toThrow(/0 to 60/);
    expect(() => beanRadius(0)).toThrow(/above 0/);
  });
});

describe('the last sample is the end', () => {
  const common = { bean: makeBean(), oven: makeOven({ usableKg: 3 }), loadKg: 2.5 };
  test.each([10, 30, 47, 600])('sampled every %i s', (sampleEvery) => {
    const run = simulateRoast({ ...common, plan: hold(130, 12.61), sampleEvery });
    const often = simulateRoast({ ...common, plan: hold(130, 12.61), sampleEvery: 1, step: 1 });
    expect(run.endSeconds).toBeCloseTo(756.6, 6);
    expect(run.seconds.at(-1)).toBeCloseTo(756.6, 6);
    expect(run.dose.at(-1)! / often.dose.at(-1)!).toBeCloseTo(1, 2);
  });
  test('however coarse the step, a second more is more, and a door open for 20 s costs as much', () => {
    const dose = (minutes: number, step: number, lasts?: number) =>
      simulateRoast({
        ...common,
        plan: hold(130, minutes),
        step,
        events: lasts ? [{ seconds: 301, kind: 'stir', lasts }] : [],
      }).dose.at(-1)!;
    for (let s = 0; s < 12; s += 1)
      expect(dose(15 + (s + 1) / 60, 12)).toBeGreaterThan(dose(15 + s / 60, 12));
    const [coarse, fine] = [12, 1].map((step) => dose(15, step) - dose(15, step, 20));
    expect(coarse! / fine!).toBeGreaterThan(0.85);
    expect(coarse! / fine!).toBeLessThan(1.15);
  });
});
