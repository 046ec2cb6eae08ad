import {
  adviseBowl,
  bowlPhase,
  crystallise,
  crystalWord,
  excursions,
  forecastBowl,
  coolsBelow,
  plannedPath,
  reasonsOf,
  TEMPER_METHODS,
  usualMethod,
  TEMPER_PATHS,
  temperatureAt,
  whatIfs,
  withoutSpikes,
  type AdviceProblem,
  type BowlCorner,
  type BowlReading,
} from './index.ts';

const dark = TEMPER_PATHS.dark;
const read = (corners: [minutes: number, celsius: number][], every = 10): BowlReading[] => {
  const path: BowlCorner[] = corners.map(([minutes, celsius]) => ({ minutes, celsius }));
  const end = path.at(-1)!.minutes * 60;
  return Array.from({ length: Math.floor(end / every) + 1 }, (_, i) => ({
    seconds: i * every,
    celsius: temperatureAt(path, (i * every) / 60),
  }));
};
const way: [number, number][] = [
  [0, 22],
  [12, 46],
  [17, 46],
  [32, 27.5],
  [36, 27.5],
  [40, 31.5],
  [50, 31.5],
];
const until = (minutes: number) => read(way).filter((r) => r.seconds <= minutes * 60);

test('a bowl goes through its phases', () => {
  const phases = [4, 11.5, 20, 30, 35, 38.5, 45].map((m) => bowlPhase(until(m), dark));
  expect(phases).toEqual(['melting', 'melting', 'cooling', 'cooling', 'cold', 'warming', 'working']);
  expect(bowlPhase([], dark)).toBeNull();
  expect(bowlPhase([...until(50), { seconds: 3060, celsius: 33.4 }], dark)).toBe('too-warm');
});

test('a spike is no temperature, a real fall is', () => {
  const spiked = until(20).map((r, i) => (i === 50 ? { ...r, celsius: 85 } : r));
  expect(withoutSpikes(spiked)).toHaveLength(spiked.length - 1);
  expect(withoutSpikes(until(50))).toHaveLength(until(50).length);
});

describe('forecast', () => {
  test('follows Newton’s law of cooling where that is all there is', () => {
    const k = 0.035;
    const newton = (minutes: number) => 20 + 26 * Math.exp(-k * minutes);
    const readings = Array.from({ length: 61 }, (_, i) => ({ seconds: i * 10, celsius: newton(i / 6) }));
    const forecast = forecastBowl({ readings, roomC: 20 })!;
    const in5 = forecast.points.find((p) => p.seconds === 900)!;
    expect(Math.abs(in5.celsius - newton(15))).toBeLessThan(0.4);
    const exact = (Math.log(26 / 11.5) / k) * 60;
    const reach = forecast.reaches(31.5)!;
    expect(reach.low).toBeLessThan(exact);
    expect(reach.high).toBeGreaterThan(exact);
    expect(forecast.reaches(46)).toBeNull();
  });

  test('says nothing from too little, and refuses nonsense', () => {
    expect(forecastBowl({ readings: [] })).toBeNull();
    expect(forecastBowl({ readings: until(0.4) })).toBeNull();
    expect(() => forecastBowl({ readings: [{ seconds: 0, celsius: Number.NaN }] })).toThrow(RangeError);
    expect(() => forecastBowl({ readings: until(20), horizonSeconds: -1 })).toThrow(RangeError);
  });
});

describe('advice', () => {
  const ask = (minutes: number, more: Partial<AdviceProblem> = {}) => {
    const readings = until(minutes);
    return adviseBowl({
      phase: bowlPhase(readings, dark)!,
      readings,
      path: dark,
      method: 'table',
      forecast: forecastBowl({ readings }),
      word: 'not-yet',
      seeded: false,
      ...more,
    });
  };
  test('melts on, cools, stirs cold, warms, pours', () => {
    expect(ask(6)).toMatchObject({ do: 'melt-on', toC: 46 });
    expect(ask(25)).toMatchObject({ do: 'cool', toC: 27.5 });
    const { seconds } = ask(30) as { seconds: number };
    expect(seconds).toBeGreaterThan(90);
    expect(seconds).toBeLessThan(240);
    expect(ask(35)).toMatchObject({ do: 'stir-cold' });
    expect(ask(35, { word: 'ready' })).toMatchObject({ do: 'warm', toC: 31.5 });
    expect(ask(38, { word: 'ready' })).toMatchObject({ do: 'warm' });
    expect(ask(48, { word: 'ready' })).toMatchObject({ do: 'pour' });
  });
  test('over water it is taken off early, by as much as it runs on', () => {
    // 18.5 K in 15 min and 40 s of it.
    const advice = ask(28, { method: 'bowl' });
    expect(advice).toMatchObject({ do: 'take-off', toC: 27.5 });
    expect((advice as { atC: number }).atC).toBeCloseTo(27.5 + (18.5 / 15 / 60) * 40, 1);
  });
  test('by seed: pieces go in while it is still hot, and not twice', () => {
    expect(ask(20, { method: 'seed' })).toMatchObject({ do: 'cool' });
    expect(ask(21.5, { method: 'seed' })).toMatchObject({ do: 'add-seed' });
    expect(ask(21.5, { method: 'seed', seeded: true })).toMatchObject({ do: 'cool', toC: 32 });
  });
  test('what has gone wrong is named, with what mends it', () => {
    const hot = [...until(50), ...[33, 34, 34.2].map((celsius, i) => ({ seconds: 3060 + i * 60, celsius }))];
    const common = { readings: hot, path: dark, forecast: null, seeded: false, phase: 'too-warm' } as const;
    expect(adviseBowl({ ...common, method: 'table', word: 'lost' })).toEqual({
      do: 'begin-again',
      toC: 27.5,
    });
    expect(adviseBowl({ ...common, method: 'seed', word: 'lost' })).toEqual({ do: 'add-seed', toC: 32 });
    // In the window already, nothing is brought down any further.
    expect(ask(48, { method: 'seed' })).toEqual({ do: 'add-seed', toC: null });
    expect(ask(48, { method: 'butter-seed', word: 'lost' })).toEqual({ do: 'add-seed', toC: null });
    expect(ask(48, { word: 'too-thick' })).toEqual({ do: 'thin', toC: 33.5 });
    expect(() => ask(48, { readings: [] })).toThrow(RangeError);
  });
});

test('the plan of each method, followed with stirring and its own seed, gives good temper', () => {
  for (const method of TEMPER_METHODS.filter((m) => m !== 'none')) {
    const path = plannedPath(dark, method);
    expect(coolsBelow(method)).toBe(Math.min(...path.slice(1).map((c) => c.celsius)) < dark.windowLowC);
    const seeds =
      method === 'seed'
        ? [{ minutes: 20, share: 0.25, kind: 'solid' as const }]
        : method === 'butter-seed'
          ? [{ minutes: 31, share: 0.008, kind: 'butter' as const }]
          : [];
    expect([method, crystallise({ path, seeds }).verdict]).toEqual([method, 'good']);
  }
});

test('the words at the marble', () => {
  const word = (stable: number, more: object = {}) =>
    crystalWord({ stable, unstable: 0, mostStable: stable, stablePerMinute: 0, ...more });
  expect([0, 0.002, 0.01, 0.03, 0.06].map((s) => word(s))).toEqual([
    'melted',
    'not-yet',
    'ready',
    'thickening',
    'too-thick',
  ]);
  expect(word(0.03, { solidSeeded: true })).toBe('ready');
  expect(word(0.01, { stablePerMinute: -0.002 })).toBe('losing');
  expect(word(0.001, { mostStable: 0.01 })).toBe('lost');
  expect(word(0.01, { unstable: 0.02 })).toBe('streaks');
});

test('futures: more seed helps a bowl that has too little, heat a bowl that has too much', () => {
  const futures = whatIfs(31.5, dark);
  const after = (name: string, start: { unstable: number; stable: number }) => {
    const { path, seedShare } = futures.find((f) => f.name === name)!;
    return crystallise({ path, start, seeds: [{ minutes: 0, share: seedShare, kind: 'solid' }] }).stable.at(
      -1,
    )!;
  };
  const little = { unstable: 0, stable: 0.003 };
  expect(after('seed', little)).toBeGreaterThan(after('leave', little) + 0.003);
  expect(after('cool-again', little)).toBeGreaterThan(after('leave', little));
  const much = { unstable: 0, stable: 0.12 };
  expect(after('warm', much)).toBeLessThan(after('leave', much));
});

test('reasons come from the bowl’s own log, the gravest first', () => {
  const log = read([...way.slice(0, 6), [44, 31.5], [46, 34.1], [52, 34.1], [54, 31.5], [58, 31.5]]);
  const spells = excursions(log, dark);
  const reasons = reasonsOf({ readings: log, spells, verdict: 'lost', path: dark });
  expect(reasons[0]).toMatchObject({ code: 'cast-lost' });
  expect(reasons[1]).toMatchObject({ code: 'too-warm', extremeC: 34.1 });
  expect(reasons[1]!.forSeconds! / 60).toBeGreaterThanOrEqual(6);
  expect(reasonsOf({ readings: read(way), spells: [], verdict: 'good', path: dark })).toEqual([
    { code: 'nothing', atSeconds: null, forSeconds: null, extremeC: null },
  ]);
  const cool = read([
    [0, 22],
    [10, 38],
    [25, 31.5],
  ]);
  expect(reasonsOf({ readings: cool, spells: [], verdict: null, path: dark })[0]).toMatchObject({
    code: 'never-melted',
  });
});

test.each([
  ['tempering machine', 'machine'],
  ['Temperiermaschine', 'machine'],
  ['table', 'table'],
  ['Marmortisch', 'table'],
  ['bowl', 'seed'],
  ['', 'seed'],
])('a %p is usually worked by %p', (kind, method) => expect(usualMethod({ kind })).toBe(method));
