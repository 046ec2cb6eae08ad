import { bowlCorners, followBowl, TEMPER_PATHS, temperatureAt, type BowlRecord } from './index.ts';

const corners: [number, number][] = [
  [0, 22],
  [12, 46],
  [17, 46],
  [32, 27.5],
  [38, 27.5],
  [42, 31.5],
  [60, 31.5],
];
const until = (minutes: number, path = corners) =>
  Array.from({ length: minutes * 6 + 1 }, (_, i) => ({
    seconds: i * 10,
    celsius: temperatureAt(
      path.map(([m, celsius]) => ({ minutes: m, celsius })),
      i / 6,
    ),
  }));
const bowl = (minutes: number, more: Partial<BowlRecord> = {}): BowlRecord => ({
  readings: until(minutes),
  path: TEMPER_PATHS.dark,
  type: 'dark',
  method: 'table',
  ...more,
});

test('a bowl from its first readings to the moulds', () => {
  expect(followBowl(bowl(0))).toBeNull();
  const melting = followBowl(bowl(8))!;
  expect(melting).toMatchObject({ phase: 'melting', advice: { do: 'melt-on' } });
  const melted = followBowl(bowl(20))!;
  // What came in solid has melted, and counts as no temper that was lost.
  expect(melted).toMatchObject({ phase: 'cooling', word: 'melted', advice: { do: 'cool', toC: 27.5 } });
  expect(followBowl(bowl(33))!).toMatchObject({
    phase: 'cold',
    word: 'not-yet',
    advice: { do: 'stir-cold' },
  });
  const ready = followBowl(bowl(48))!;
  expect(ready).toMatchObject({ phase: 'working', word: 'ready', advice: { do: 'pour' } });
  expect(ready.stableNow.low).toBeLessThan(ready.stableNow.middle);
  expect(ready.stableNow.high).toBeGreaterThan(ready.stableNow.middle);
  expect(Object.values(ready.pourNow).reduce((a, b) => a + b)).toBeCloseTo(1, 9);
  expect(ready.pourNow.good).toBeGreaterThan(0.7);
  expect(ready.crystals.minutes.at(-1)!).toBeGreaterThan(65);
});

test('a bowl left standing too warm has lost its seed, and says how to get it back', () => {
  const hot: [number, number][] = [...corners.slice(0, 6), [50, 31.5], [52, 35], [60, 35]];
  const lost = followBowl(bowl(58, { readings: until(58, hot) }))!;
  expect(lost).toMatchObject({ phase: 'too-warm', word: 'lost', advice: { do: 'begin-again' } });
  expect(lost.futures.find((f) => f.name === 'seed')!.verdict).toBe('good');
  expect(lost.futures.find((f) => f.name === 'leave')!.verdict).not.toBe('good');
});

test('a still bowl is told from a stirred one by what the hand has said', () => {
  const stirred = followBowl(bowl(45))!;
  const still = followBowl(bowl(45, { stirrings: [{ seconds: 0, stirring: 0 }] }))!;
  expect(still.stableNow.middle).toBeLessThan(0.4 * stirred.stableNow.middle);
  expect(still.word).toBe('not-yet');
});

test('seed is seen from when it went in', () => {
  const path: [number, number][] = [
    [0, 46],
    [8, 42],
    [9.5, 36],
    [14, 31.8],
    [25, 31.6],
  ];
  const record = { method: 'seed' as const, readings: until(20, path) };
  const with25 = followBowl(bowl(20, { ...record, seeds: [{ seconds: 480, share: 0.25, kind: 'solid' }] }))!;
  expect(with25).toMatchObject({ word: 'ready', advice: { do: 'pour' } });
  expect(followBowl(bowl(20, record))!).toMatchObject({ advice: { do: 'add-seed' } });
});

test('corners leave spikes out and keep what was said of the stirring', () => {
  const spiked = until(5).map((r, i) => (i === 12 ? { ...r, celsius: 90 } : r));
  const found = bowlCorners(spiked, [{ seconds: 100, stirring: 0.45 }]);
  expect(Math.max(...found.map((c) => c.celsius))).toBeLessThan(40);
  expect(found[0]!.stirring).toBe(0.85);
  expect(found.at(-1)!.stirring).toBe(0.45);
});

test('nonsense is refused', () => {
  expect(() => followBowl(bowl(20, { fat: 36 }))).toThrow(RangeError);
  expect(() => followBowl(bowl(20, { roomC: Number.NaN }))).toThrow(RangeError);
  expect(() => followBowl(bowl(20, { seeds: [{ seconds: 5, share: 3, kind: 'solid' }] }))).toThrow(
    RangeError,
  );
});
