import { normalDraw, seededRandom } from '../numerics/index.ts';
import { followDrying, type KeptWeighing } from './index.ts';

/** A bed of 45 kg dry matter by Lewis's law; only the first weighing was measured. */
const bed = (hours: readonly number[], moisture = 55): KeptWeighing[] =>
  hours.map((h, i) => ({
    hours: h,
    mass: 45 * (1 + 0.05 + (55 / 45 - 0.05) * Math.exp(-0.03 * h)),
    moisture: i === 0 ? moisture : null,
  }));

const known = (weighings: readonly KeptWeighing[]) => {
  const drying = followDrying(weighings);
  if (!drying.isKnown) throw new Error('its moisture is not known');
  return drying;
};

test('one moisture measured with the first weighing gives every later one', () => {
  const { dry, weighings, misweighed, contradicts } = known(bed([0, 8, 24]));
  expect(dry).toBeCloseTo(45, 9);
  expect(weighings[0]!.moisture).toBeCloseTo(55, 9);
  expect(misweighed).toEqual([]);
  expect(contradicts).toBeNull();
});

test('a moisture measured later gives the earlier ones too', () => {
  const weighed = bed([10, 18, 34]).map((w, i) => ({
    ...w,
    moisture: i === 2 ? 100 * (1 - 45 / w.mass) : null,
  }));
  const { start, weighings } = known(weighed);
  expect(weighings.map((w) => w.hours)).toEqual([0, 8, 24]);
  expect(start.moisture).toBeCloseTo(100 * (1 - 45 / weighed[0]!.mass), 9);
});

test('of a guess of wet beans and a meter in dry ones the meter counts', () => {
  const weighed = bed([0, 24, 48, 72], 51);
  const last = weighed.at(-1)!;
  weighed[3] = { ...last, moisture: 100 * (1 - 45 / last.mass) };
  const { dry, contradicts } = known(weighed);
  expect(Math.abs(dry - 45)).toBeLessThan(0.03 * 45);
  // 51 for 55 is what such a guess may be off by.
  expect(contradicts).toBeNull();
});

test('where beans were taken out between two measurements it says so', () => {
  const weighed = bed([0, 24, 48]).map((w, i) => (i === 2 ? { ...w, mass: 0.7 * w.mass } : w));
  weighed[2]!.moisture = 25;
  const { contradicts } = known(weighed);
  expect(contradicts!.measured).toBe(25);
  expect(contradicts!.byMass).toBeLessThan(15);
});

test.each<[string, number, number]>([
  ['a nought too many', 2, 10],
  ['a comma slipped', 2, 0.1],
  ['a nought too many at the end', 4, 10],
  ['a comma slipped at the end', 4, 0.1],
  ['half of it on the scale', 3, 0.5],
])('%s is named and left out', (_, at, times) => {
  const weighed = bed([0, 8, 16, 24, 32]);
  weighed[at] = { ...weighed[at]!, mass: times * weighed[at]!.mass };
  const { misweighed, weighings } = known(weighed);
  expect(misweighed).toEqual([weighed[at]]);
  expect(weighings).toHaveLength(4);
});

test('a first weighing that is wrong is the one that is named, with its moisture', () => {
  const weighed = bed([0, 8, 16, 24]);
  weighed[0] = { ...weighed[0]!, mass: 10 };
  expect(followDrying(weighed)).toEqual({ isKnown: false, misweighed: [weighed[0]] });
  expect(followDrying([])).toEqual({ isKnown: false, misweighed: [] });
});

test('rain on the bed is no slip', () => {
  const weighed = bed([0, 8, 16, 24, 32]);
  weighed[3] = { ...weighed[3]!, mass: 1.1 * weighed[2]!.mass };
  expect(known(weighed).misweighed).toEqual([]);
});

/** A bed in the sun by day and the dew by night, which nobody's law knows, weighed to 100 g with a scale off by 4 in 1000. */
function outdoors(random: () => number): KeptWeighing[] {
  const dry = 20 + 60 * random();
  const first = 48 + 14 * random();
  const rate = 0.03 * Math.exp(0.4 * normalDraw(random));
  const left = 0.05 + 0.01 * normalDraw(random);
  const every = [6, 8, 12, 24][Math.floor(4 * random())]!;
  const [begun, dewy] = [24 * random(), random() < 0.3];
  let X = first / (100 - first);
  const weighed: KeptWeighing[] = [];
  for (let n = 4 + Math.floor(8 * random()), h = 0; n > 0 && X > 0.068; n -= 1, h += every) {
    const mass = Math.round(10 * dry * (1 + X) * (1 + 0.004 * normalDraw(random))) / 10;
    weighed.push({ hours: h, mass, moisture: h === 0 ? Math.round(first + normalDraw(random)) : null });
    for (let t = h; t < h + every; t += 0.25) {
      const sun = Math.sin((2 * Math.PI * (t + begun)) / 24);
      X -= (rate * (0.1 + 2.6 * Math.max(0, sun)) * (X - left)) / 4;
      if (dewy && sun < -0.9) X += 0.004;
    }
  }
  return weighed;
}

test('of 300 beds outdoors at most one in a hundred is called mistyped; of slips of ten kilos or a digit three in five are found', () => {
  const random = seededRandom(2024);
  let [called, beds, slips, found, innocent] = [0, 0, 0, 0, 0];
  while (beds < 300) {
    const weighed = outdoors(random);
    if (weighed.length < 4) continue;
    beds += 1;
    if (followDrying(weighed).misweighed.length > 0) called += 1;
    const at = 1 + Math.floor(random() * (weighed.length - 1));
    const { mass } = weighed[at]!;
    const slip = [10 * mass, mass / 10, mass + 10, mass - 10][Math.floor(4 * random())]!;
    if (!(slip > 1) || Math.abs(slip - mass) < 0.08 * mass) continue;
    slips += 1;
    const typed = weighed.with(at, { ...weighed[at]!, mass: slip });
    const { misweighed } = followDrying(typed);
    if (misweighed.includes(typed[at]!)) found += 1;
    if (misweighed.some((w) => w !== typed[at])) innocent += 1;
  }
  expect(called / beds).toBeLessThanOrEqual(0.01);
  expect(innocent / slips).toBeLessThanOrEqual(0.01);
  expect(found / slips).toBeGreaterThanOrEqual(3 / 5);
});

test.each<[KeptWeighing]>([
  [{ hours: 0, mass: 0, moisture: 55 }],
  [{ hours: NaN, mass: 10, moisture: 55 }],
  [{ hours: 0, mass: 10, moisture: 100 }],
  [{ hours: 0, mass: Infinity, moisture: null }],
])('%j is refused', (weighing) => {
  expect(() => followDrying([weighing])).toThrow(RangeError);
});

test('no moisture lies below nothing: what weighs less than the dry beans is left out, be it the first', () => {
  const weighed = [
    { hours: 0, mass: 40, moisture: null },
    { hours: 4, mass: 42.6, moisture: 5 },
  ];
  const { misweighed, weighings } = known(weighed);
  expect(misweighed).toEqual([weighed[0]]);
  expect(weighings.map((w) => w.moisture)).toEqual([expect.closeTo(5, 9)]);
  // Beans without any water there are not.
  const bone = { hours: 0, mass: 40, moisture: 0 };
  expect(followDrying([bone])).toEqual({ isKnown: false, misweighed: [bone] });
});

test('one measurement that is wrong is named, and not the weighings it contradicts', () => {
  const weighed = bed([0, 8, 16, 24, 32, 40]);
  // Mistyped upwards as the moisture was measured; a moisture mistyped as it began; one misread on the way.
  const slips: readonly (readonly [number, Partial<KeptWeighing>])[] = [
    [5, { mass: 1.4 * weighed[5]!.mass, moisture: 9 }],
    [0, { moisture: 5 }],
    [3, { moisture: 1 }],
  ];
  for (const [at, slip] of slips) {
    const typed = weighed.with(at, { ...weighed[at]!, ...slip });
    expect(followDrying(typed).misweighed).toEqual([typed[at]]);
  }
});
