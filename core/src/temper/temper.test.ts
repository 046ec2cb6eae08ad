import {
  excursions,
  guardWindow,
  hotFor,
  seedMass,
  tabledFor,
  tabledMix,
  TEMPER_PATHS,
  temperatureWithSeed,
  type BowlReading,
} from './index.ts';

const path = (...corners: [minute: number, celsius: number][]): BowlReading[] =>
  corners.slice(1).flatMap(([m1, c1], i) => {
    const [m0, c0] = corners[i]!;
    return Array.from({ length: m1 - m0 }, (_, k) => ({
      seconds: (m0 + k) * 60,
      celsius: c0 + ((c1 - c0) * k) / (m1 - m0),
    }));
  });

describe('seed', () => {
  const bowl = { mass: 3150, fromC: 41.5, toC: 31.8, seedC: 20, fat: 0.36, meltingShare: 0.7 };
  test('matches the worked bowl: 898 g', () => expect(Math.round(seedMass(bowl))).toBe(898));
  test('mixing that seed in comes to the target', () => {
    expect(temperatureWithSeed({ ...bowl, seed: seedMass(bowl) })).toBeCloseTo(31.8, 9);
  });
  test('without latent heat it is plain mixing', () => {
    const m = seedMass({ ...bowl, fat: 0 });
    expect((3150 * 41.5 + m * 20) / (3150 + m)).toBeCloseTo(31.8, 9);
  });
  test.each([
    [{ fromC: 31 }, /not warmer/],
    [{ seedC: 33 }, /not cooler/],
    [{ fat: 36 }, /share/],
    [{ mass: 0 }, /no chocolate/],
  ])('refuses %j', (change, message) => expect(() => seedMass({ ...bowl, ...change })).toThrow(message));
  test('tabling lies between the two parts and below plain mixing', () => {
    const t = tabledMix({ hot: 1, tabled: 2, hotC: 45, tabledC: 26 });
    expect(t).toBeLessThan((45 + 52) / 3);
    expect(t).toBeGreaterThan(26);
  });
  test('how much to leave hot, and when to bring the rest back, both come to the target', () => {
    for (const [hotC, tabledC] of [
      [46, 27.5],
      [40, 26],
      [55, 28],
    ] as const) {
      const hot = hotFor({ hotC, tabledC, toC: 31.5 })!;
      expect(tabledMix({ hot, tabled: 1 - hot, hotC, tabledC })).toBeCloseTo(31.5, 9);
      expect(tabledFor({ hot, tabled: 1 - hot, hotC, toC: 31.5 })).toBeCloseTo(tabledC, 9);
    }
    // Without crystals that melt it is the lever rule: 4 of 18.5 parts.
    expect(hotFor({ hotC: 46, tabledC: 27.5, toC: 31.5, meltingFat: 0 })).toBeCloseTo(4 / 18.5, 9);
    expect(hotFor({ hotC: 31, tabledC: 27, toC: 31.5 })).toBeNull();
    expect(hotFor({ hotC: 46, tabledC: 33, toC: 31.5 })).toBeNull();
  });
});

describe('window guard', () => {
  test('melting and the cool step are on the way, the window is inside', () => {
    const melt = path([0, 26], [10, 46], [20, 46]);
    expect(guardWindow(melt, 'dark')?.state).toBe('on-the-way');
    const cool = [...melt, ...path([20, 46], [40, 27.4])];
    expect(guardWindow(cool, 'dark')?.state).toBe('on-the-way');
    const work = [...cool, ...path([40, 27.4], [46, 31.5], [50, 31.5])];
    expect(guardWindow(work, 'dark')).toMatchObject({ state: 'inside', lowC: 30.5, highC: 32 });
    expect(guardWindow([...work, { seconds: 3060, celsius: 33.5 }], 'dark')?.state).toBe('too-warm');
    expect(guardWindow([...work, { seconds: 3060, celsius: 29.9 }], 'dark')?.state).toBe('too-cool');
  });
  test('a seeded bowl that stays in the window has arrived', () => {
    const seeded = path([0, 45], [6, 31.6], [14, 31.4]);
    expect(guardWindow(seeded, 'dark')?.state).toBe('inside');
    expect(guardWindow([...seeded, { seconds: 900, celsius: 30 }], 'dark')?.state).toBe('too-cool');
  });
  test('time left follows the pace', () => {
    const falling = path([0, 45], [10, 31.9], [20, 31]);
    const guard = guardWindow(falling, 'dark')!;
    expect(guard.pace).toBeCloseTo(-0.09, 3);
    expect(guard.secondsLeft! / 60).toBeCloseTo((guard.celsius - 30.5) / 0.09, 1);
  });
  test('a spell at 34.1 °C is found with its length and height', () => {
    const log = path(
      [0, 45],
      [20, 27.5],
      [26, 31.5],
      [30, 31.5],
      [32, 34.1],
      [38, 34.1],
      [40, 31.5],
      [45, 31.5],
    );
    const spells = excursions(log, TEMPER_PATHS.dark);
    expect(spells).toHaveLength(1);
    expect(spells[0]).toMatchObject({ kind: 'too-warm', extremeC: 34.1 });
    expect((spells[0]!.toSeconds - spells[0]!.fromSeconds) / 60).toBeGreaterThanOrEqual(6);
  });
  test('no reading, no verdict', () => expect(guardWindow([], 'milk')).toBeNull());
});
