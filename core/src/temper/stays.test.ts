import { guardsAlong, guardWindow, TEMPER_PATHS, windowStays, type BowlReading } from './index.ts';

/** Down through the cool step and up to 31.2, by the minute; then on by °C/min for so long, read every ten seconds. */
function bowl(pace: number, minutes: number): BowlReading[] {
  const down = [46, 40, 35, 31, 28, 27.4, 27.4, 29, 30.6, 31.2].map((celsius, i) => ({
    seconds: i * 60,
    celsius,
  }));
  const after = Array.from({ length: minutes * 6 }, (_, k) => ({
    seconds: 600 + k * 10,
    celsius: 31.2 + (pace * (k + 1)) / 6,
  }));
  return [...down, ...after];
}

test('a bowl that drifts out is warned of beforehand, by the minutes its pace leaves', () => {
  // 0.7 K below the window at 0.05 K a minute: fourteen minutes, of which the last three are warned of.
  const [stay, ...rest] = windowStays(bowl(-0.05, 30), 'dark');
  expect(rest).toEqual([]);
  const lead = stay!.happenedAt! - stay!.warnedAt!;
  expect(lead).toBeGreaterThan(120);
  expect(lead).toBeLessThanOrEqual(190);
});

test('a bowl that is kept, or poured in time, is nothing that happened, and its last minutes are no false alarm', () => {
  expect(windowStays(bowl(0, 30), 'dark')).toEqual([{ happenedAt: null, warnedAt: null }]);
  // Poured two minutes after it was warned of: nobody knows what would have come.
  expect(windowStays(bowl(-0.05, 13), 'dark')).toEqual([]);
});

test('too short a stay, a bowl that never came there, and no log at all are not counted', () => {
  expect(windowStays(bowl(-0.4, 10), 'dark')).toEqual([]);
  expect(windowStays(bowl(0, 2), 'dark')).toEqual([]);
  expect(windowStays([{ seconds: 0, celsius: 45 }], 'dark')).toEqual([]);
  expect(windowStays([], 'dark')).toEqual([]);
  expect(() => windowStays([{ seconds: 0, celsius: Number.NaN }], 'dark')).toThrow(RangeError);
});

test('gone through once, a log says at each reading what it said when that was the last', () => {
  for (const pace of [-0.05, 0, 0.08]) {
    // Melted again, and cooled again.
    const log = [
      ...bowl(pace, 14),
      { seconds: 1500, celsius: 46 },
      { seconds: 1530, celsius: 46 },
      { seconds: 1590, celsius: 30.9 },
    ];
    const along = guardsAlong(log, TEMPER_PATHS.dark);
    expect(along).toEqual(log.map((_, i) => guardWindow(log.slice(0, i + 1), 'dark')));
  }
  expect(guardsAlong([], TEMPER_PATHS.dark)).toEqual([]);
});
