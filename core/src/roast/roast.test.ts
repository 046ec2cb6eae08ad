import { acidLeft, planLine, relativeRate, roastDose, splitLoads, stageAt, STARTER_PLANS } from './index.ts';

const steady = (celsius: number, minutes: number) =>
  Array.from({ length: minutes + 1 }, (_, i) => ({ seconds: i * 60, celsius }));

test('ten minutes at a steady 120 °C are a dose of ten', () =>
  expect(roastDose(steady(120, 10))).toBeCloseTo(10, 9));
test('the rate is 1 at 120 °C and follows Arrhenius elsewhere', () => {
  expect(relativeRate(120, 110_000)).toBeCloseTo(1, 12);
  expect(relativeRate(130, 110_000)).toBeCloseTo(
    Math.exp((110_000 / 8.314462618) * (1 / 393.15 - 1 / 403.15)),
    9,
  );
});
test('acid falls by first order: 1000 s at 120 °C leave 1/e', () => {
  expect(
    acidLeft([
      { seconds: 0, celsius: 120 },
      { seconds: 1000, celsius: 120 },
    ]),
  ).toBeCloseTo(Math.exp(-1), 9);
});
test('a charge splits into equal loads that add up', () => {
  expect(splitLoads(14_700_000, 3_000_000)).toEqual([2_940_000, 2_940_000, 2_940_000, 2_940_000, 2_940_000]);
  expect(splitLoads(10_000_001, 3_000_000).reduce((a, b) => a + b)).toBe(10_000_001);
});
test('plan line and stage in force', () => {
  const plan = STARTER_PLANS[0]!;
  expect(planLine(plan)).toHaveLength(plan.stages.length * 2);
  expect(stageAt(plan, 12)).toMatchObject({ index: 1, minutesLeft: 18 });
  expect(stageAt(plan, 99)).toBeNull();
});
