import {
  excursions,
  followBowl,
  guardWindow,
  inTheBowl,
  pathReached,
  probeOuts,
  TEMPER_PATHS,
  type BowlReading,
} from './index.ts';

/** Park and Miller's generator, and normal deviates of it. */
function chance(seed: number) {
  let state = seed;
  const next = () => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647;
  const normal = () => Math.sqrt(-2 * Math.log(next())) * Math.cos(2 * Math.PI * next());
  return { next, normal, between: (a: number, b: number) => a + (b - a) * next() };
}
type Chance = ReturnType<typeof chance>;
type Corners = [minute: number, celsius: number][];

const KINDS = ['ice', 'bowl', 'table', 'seed'] as const;

/** A bowl's true temperature by minutes: over ice as fast as a small one goes, in a cool room, over marble, or with pieces of seed. */
function bowlOf(kind: (typeof KINDS)[number], { between }: Chance): Corners {
  const [melt, cool, work] = [between(44, 48), between(25.5, 27.8), between(29.5, 32)];
  const pace = kind === 'ice' ? between(2, 5.5) : between(0.4, 1.9);
  if (kind === 'table') {
    const back = between(8, 14);
    const mixed = back + between(0.2, 0.7);
    return [
      [0, melt],
      [back, melt - 6],
      [mixed, between(28, 30)],
      [mixed + 6, work],
      [mixed + 40, work - 1],
    ];
  }
  const low = kind === 'seed' ? 34 : cool - (kind === 'ice' ? between(0, 1.2) : 0);
  const down = (melt - low) / pace;
  const next: Corners =
    kind === 'seed' ? [[down + between(0.3, 2.3), work + 0.5]] : [[down + between(1, 3), cool + 0.5]];
  const arrived = next[0]![0] + between(3, 8);
  return [[0, melt], [down, low], ...next, [arrived, work], [arrived + 35, work - between(0, 1.5)]];
}

const at = (corners: Corners, minutes: number) => {
  const k = corners.findIndex(([m]) => m >= minutes);
  if (k < 0) return corners.at(-1)![1];
  if (k === 0) return corners[0]![1];
  const [[a, x], [b, y]] = [corners[k - 1]!, corners[k]!];
  return x + ((y - x) * (minutes - a)) / (b - a);
};

/** What a probe shows: it follows the chocolate within seconds, and the room within a minute or two, by Newton's law. */
function log(
  corners: Corners,
  until: number,
  { normal }: Chance,
  how: { everySeconds: number; noise: number; roomC: number; inAir: number; out?: [number, number] },
): BowlReading[] {
  const found: BowlReading[] = [];
  let shown = at(corners, 0);
  for (let s = 0; s <= until * 60; s += 0.5) {
    const isOut = how.out !== undefined && s >= how.out[0] * 60 && s < how.out[1] * 60;
    const target = isOut ? how.roomC : at(corners, s / 60);
    shown += (target - shown) * (1 - Math.exp(-0.5 / (isOut ? how.inAir : 6)));
    if (s % how.everySeconds === 0) found.push({ seconds: s, celsius: shown + how.noise * normal() });
  }
  return found;
}

const drawn = (random: Chance) => ({
  everySeconds: [1, 2, 5, 10][Math.floor(random.next() * 4)]!,
  noise: [0.03, 0.1, 0.2][Math.floor(random.next() * 3)]!,
  roomC: random.between(17, 23),
  inAir: random.between(40, 100),
});

test('of 400 bowls over ice, on marble, seeded or left to cool none is said to have lost its probe, nor one in twenty of them on its way', () => {
  const random = chance(7);
  let called = 0;
  for (let i = 0; i < 400; i += 1) {
    const corners = bowlOf(KINDS[i % 4]!, random);
    const readings = log(corners, corners.at(-1)![0], random, drawn(random));
    expect(inTheBowl(readings).length).toBeGreaterThan(0.97 * readings.length);
    for (let n = 20; n <= readings.length; n += i % 20 === 0 ? 9 : readings.length)
      called += probeOuts(readings.slice(0, n)).length;
  }
  expect(called).toBe(0);
});

test('a probe lifted for a minute to eight, and one left on the bench, are found in 95 of 100 with their moments', () => {
  const random = chance(11);
  let [wiped, left] = [0, 0];
  const runs = 300;
  for (let i = 0; i < runs; i += 1) {
    const corners = bowlOf(KINDS[i % 4]!, random);
    const end = corners.at(-1)![0];
    const out = end - random.between(15, 28);
    const back = out + random.between(0.8, 8);
    const how = drawn(random);
    const gone = probeOuts(log(corners, end, random, { ...how, out: [out, back] }));
    if (
      gone.length === 1 &&
      Math.abs(gone[0]!.fromSeconds / 60 - out) < 0.5 &&
      gone[0]!.toSeconds !== null &&
      Math.abs(gone[0]!.toSeconds / 60 - back) < 1
    )
      wiped += 1;
    const laid = probeOuts(
      log(corners, out + random.between(4, 9), random, { ...how, out: [out, Infinity] }),
    );
    if (laid.length === 1 && laid[0]!.toSeconds === null && Math.abs(laid[0]!.fromSeconds / 60 - out) < 0.5)
      left += 1;
  }
  expect(wiped).toBeGreaterThan(0.95 * runs);
  expect(left).toBeGreaterThan(0.95 * runs);
});

const path = TEMPER_PATHS.dark;
const random = chance(3);
const good: Corners = [
  [0, 46],
  [12, path.coolC],
  [15, path.coolC + 0.3],
  [18, path.workC],
  [60, path.workC - 0.3],
];
const how = { everySeconds: 5, noise: 0.05, roomC: 20, inAir: 70 };

test('a bowl poured while its probe lies on the bench is judged by the chocolate', () => {
  const until = log(good, 30, chance(3), how);
  const laid = log(good, 45, chance(3), { ...how, out: [30, Infinity] });
  expect(excursions(laid, path)).toEqual([]);
  expect(guardWindow(laid, 'dark')!.state).toBe('inside');
  expect(pathReached(laid)!.coolC).toBeCloseTo(pathReached(until)!.coolC, 1);
  expect(pathReached(laid)!.workC).toBeCloseTo(pathReached(until)!.workC, 1);
  const followed = followBowl({ readings: laid, path, type: 'dark', method: 'bowl' })!;
  expect(Math.abs(followed.outSince! / 60 - 30)).toBeLessThan(0.25);
  expect(followed.word).toBe(followBowl({ readings: until, path, type: 'dark', method: 'bowl' })!.word);
  expect(followed.unstableNow.high).toBeLessThan(0.01);
});

test('a probe wiped for three minutes leaves no spell behind, and is in again', () => {
  const wiped = log(good, 40, chance(3), { ...how, out: [28, 31] });
  expect(excursions(wiped, path)).toEqual([]);
  expect(followBowl({ readings: wiped, path, type: 'dark', method: 'bowl' })!.outSince).toBeNull();
});

test('what a hand types while the probe lies on the bench counts; a bowl that has really grown cold is told', () => {
  const typed = { seconds: 40 * 60, celsius: path.windowHighC + 1.5, byHand: true };
  const laid = [...log(good, 39, random, { ...how, out: [30, Infinity] }), typed];
  expect(guardWindow(laid, 'dark')!.celsius).toBe(typed.celsius);
  // Kilograms on a cold table lose a degree in two minutes.
  const cold: Corners = [...good.slice(0, 4), [22, path.workC], [38, 23]];
  const grown = log(cold, 38, random, how);
  expect(guardWindow(grown, 'dark')!.state).toBe('too-cool');
  expect(probeOuts(grown)).toEqual([]);
});

test('nonsense is refused', () => {
  expect(() => probeOuts([{ seconds: 0, celsius: NaN }])).toThrow(RangeError);
  expect(probeOuts([])).toEqual([]);
});
