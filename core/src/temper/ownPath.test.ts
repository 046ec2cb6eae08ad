import {
  ownPath,
  pathByMilkFat,
  pathReached,
  plannedPath,
  temperatureAt,
  TEMPER_PATHS,
  type ReachedPath,
} from './index.ts';

const dark = TEMPER_PATHS.dark;
const bowls = (n: number, coolC: number | null, workC: number, good: boolean | null = true): ReachedPath[] =>
  Array.from({ length: n }, () => ({ coolC, workC, good }));

test('what a bowl reached is read from its log: coldest after melting, and what it was worked at', () => {
  const path = plannedPath(dark, 'table', 24);
  const readings = Array.from({ length: 100 }, (_, k) => ({
    seconds: k * 30,
    celsius: temperatureAt(path, (k * 30) / 60),
  }));
  const reached = pathReached(readings)!;
  expect(reached.coolC).toBeCloseTo(27.5, 1);
  expect(reached.workC).toBeCloseTo(31.5, 1);
  // A spike of the probe is no cool step, and a bowl that was only melted has reached nothing.
  const spiked = readings.map((r, i) => (i === 60 ? { ...r, celsius: 12 } : r));
  expect(pathReached(spiked)!.coolC).toBeCloseTo(27.5, 1);
  expect(pathReached(readings.slice(0, 20))).toBeNull();
  expect(() => pathReached([{ seconds: NaN, celsius: 3 }])).toThrow('reading');
});

test('a path of its own needs three good bowls, is drawn to the usual while they are few, and goes no further than two kelvin', () => {
  expect(ownPath(dark, bowls(2, 27, 31))).toBeNull();
  expect(
    ownPath(dark, [...bowls(2, 27, 31), ...bowls(9, 20, 20, false), ...bowls(9, 20, 20, null)]),
  ).toBeNull();
  const few = ownPath(dark, bowls(3, 26.5, 31))!;
  // 3 of 5 parts of the way from 31.5 to 31.
  expect(few.path.workC).toBeCloseTo(31.2, 9);
  expect(few.path.coolC).toBeCloseTo(26.9, 9);
  expect(few.path.windowHighC - few.path.windowLowC).toBeCloseTo(dark.windowHighC - dark.windowLowC, 9);
  expect(ownPath(dark, bowls(40, 15, 15))!.path.workC).toBeCloseTo(29.5, 9);
  expect(few.driftC).toBeNull();
  // Seeded bowls have no cool step to learn from.
  const seeded = ownPath(dark, bowls(5, null, 31))!;
  expect(seeded.path.coolC).toBe(dark.coolC);
  expect(seeded.path.workC).toBeLessThan(dark.workC);
});

test('a drift of the last three is said', () => {
  expect(ownPath(dark, [...bowls(4, 27.5, 31.6), ...bowls(3, 27.5, 31)])!.driftC).toBeCloseTo(-0.6, 9);
  expect(ownPath(dark, [...bowls(4, 27.5, 31.6), ...bowls(3, 27.5, 31.4)])!.driftC).toBeNull();
});

test('milk fat moves the window down from dark to where milk chocolate is worked, and never further', () => {
  expect(pathByMilkFat('dark', 0)).toEqual(dark);
  expect(pathByMilkFat('dark', 0.15).workC).toBeCloseTo(TEMPER_PATHS.milk.workC, 0);
  expect(pathByMilkFat('dark', 0.9).workC).toBeCloseTo(29.5, 9);
  expect(pathByMilkFat('milk', 0.15)).toEqual(TEMPER_PATHS.milk);
  expect(() => pathByMilkFat('dark', 1.2)).toThrow('milk fat');
});
