import {
  coolingCurve,
  excursions,
  guardWindow,
  reasonsOf,
  TEMPER_PATHS,
  windowStays,
  withoutSpikes,
  type BowlReading,
} from './index.ts';

const path = TEMPER_PATHS.dark;

/** A dark bowl: melted, cooled to its cool step, warmed into its window, and kept there; every 5 s. */
const bowl = (last: number): BowlReading[] => {
  const corners = [
    [0, 46],
    [15, path.coolC],
    [17, (path.windowLowC + path.windowHighC) / 2],
    [60, (path.windowLowC + path.windowHighC) / 2],
  ] as const;
  return Array.from({ length: last * 12 + 1 }, (_, i) => {
    const minutes = i / 12;
    const next = Math.max(
      1,
      corners.findIndex(([at]) => at >= minutes),
    );
    const [[a, from], [b, to]] = [corners[next - 1]!, corners[next]!];
    return { seconds: 5 * i, celsius: from + ((to - from) * (minutes - a)) / (b - a) };
  });
};
const broken = (readings: BowlReading[], at: number, values: number[]) =>
  readings.map((r, i) => ({ ...r, celsius: values[i - 12 * at] ?? r.celsius }));

const FAULTS: [string, number[]][] = [
  ['a spark', [85]],
  ['a probe that restarts', [85, 85]],
  ['an open plug', [-127, 0]],
];

test.each(FAULTS)('%s does not make a bowl in its window one that is melted again', (_, values) => {
  const seen = broken(bowl(40), 25, values);
  expect(guardWindow(seen, 'dark')!.state).toBe('inside');
  expect(excursions(seen, path)).toEqual([]);
  expect(windowStays(seen, 'dark')).toEqual(windowStays(bowl(40), 'dark'));
  // What is really too warm afterwards is still told.
  const warmed = seen.map((r) => (r.seconds > 35 * 60 ? { ...r, celsius: path.windowHighC + 1.2 } : r));
  expect(guardWindow(warmed, 'dark')!.state).toBe('too-warm');
  expect(excursions(warmed, path).map((s) => s.kind)).toEqual(['too-warm']);
});

test.each(FAULTS)('%s as the last reading is not taken for the bowl', (_, values) => {
  const seen = [...bowl(25), ...values.map((celsius, i) => ({ seconds: 25 * 60 + 5 * (i + 1), celsius }))];
  expect(guardWindow(seen, 'dark')).toEqual(guardWindow(bowl(25), 'dark'));
});

test('what a hand types stands, seconds apart: melted, cooled, and then too warm', () => {
  const typed = [45, path.coolC, path.windowHighC + 2].map((celsius, i) => ({ seconds: 3 * i, celsius }));
  expect(guardWindow(typed, 'dark')!.state).toBe('too-warm');
  expect(guardWindow(typed.slice(0, 2), 'dark')!.celsius).toBe(path.coolC);
  // Beside a probe, too.
  const last = bowl(25).at(-1)!.seconds + 2;
  const both = [...bowl(25), { seconds: last, celsius: path.windowHighC + 2, byHand: true }];
  expect(guardWindow(both, 'dark')!.state).toBe('too-warm');
});

test('a bowl that never melted is not said to have melted by a spark', () => {
  const cool = bowl(40).map((r) => ({ ...r, celsius: Math.min(r.celsius, 38) }));
  const codes = (readings: BowlReading[]) =>
    reasonsOf({ readings, spells: [], verdict: null, path }).map((r) => r.code);
  expect(codes(broken(cool, 5, [85, 85]))).toEqual(codes(cool));
  expect(codes(cool)).toEqual(['never-melted']);
});

test('chocolate from the marble stirred in is a real fall, kept from its first reading on', () => {
  const mixed = bowl(10).map((r) => (r.seconds >= 300 ? { ...r, celsius: r.celsius - 8 } : r));
  expect(withoutSpikes(mixed)).toEqual(mixed);
});

test('a cooling curve is judged as without its spark', () => {
  const curve = Array.from({ length: 300 }, (_, i) => {
    const s = 2 * i;
    return { seconds: s, celsius: 12 + 20 * Math.exp(-s / 160) + 2.2 * Math.exp(-(((s - 220) / 70) ** 2)) };
  });
  const whole = coolingCurve(curve)!;
  const sparked = coolingCurve(curve.map((r, i) => (i === 100 ? { ...r, celsius: 60 } : r)))!;
  expect(sparked.verdict).toBe(whole.verdict);
  expect(sparked.slope).toBeCloseTo(whole.slope, 1);
});
