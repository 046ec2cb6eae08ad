import { mouldSeen } from './index.ts';

const DRY = 48;

/** Weighings every few hours as moisture on a dry basis falls by so much an hour. */
const dryingBy = (rate: number, hours: number, every = 6) =>
  Array.from({ length: Math.floor(hours / every) + 1 }, (_, k) => ({
    hours: k * every,
    mass: DRY * (1 + (52 / 48) * Math.exp(-rate * k * every)),
    moisture: k === 0 ? 52 : null,
  }));

test('slow drying stood too moist for two days, and that was said before the two days were full', () => {
  // 25 % on a dry basis are 20 % wet: ln(52/48/0.25)/0.012 = 122 h.
  const seen = mouldSeen(dryingBy(0.012, 150))!;
  expect(seen.happenedAt).toBeGreaterThanOrEqual(48);
  expect(seen.happenedAt).toBeLessThanOrEqual(60);
  expect(seen.warnedAt).not.toBeNull();
  expect(seen.warnedAt!).toBeLessThan(seen.happenedAt!);
});

test('quick drying never was, and nobody was warned for nothing', () => {
  expect(mouldSeen(dryingBy(0.06, 60))).toEqual({ happenedAt: null, warnedAt: null });
});

test('what is still moist and not for long is not known yet; what cannot be is refused', () => {
  expect(mouldSeen(dryingBy(0.012, 24))).toBeNull();
  expect(mouldSeen([])).toBeNull();
  expect(mouldSeen(dryingBy(0.012, 150).map((w) => ({ ...w, moisture: null })))).toBeNull();
  expect(() => mouldSeen([{ hours: 0, mass: -1, moisture: 52 }])).toThrow(RangeError);
});

test('a weighing mistyped upwards is no mould, and no reason to say nothing', () => {
  const typed = dryingBy(0.06, 60);
  typed[4] = { ...typed[4]!, mass: typed[4]!.mass * 10 };
  expect(mouldSeen(typed)).toEqual({ happenedAt: null, warnedAt: null });
});
