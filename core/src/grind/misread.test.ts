import { normalDraw, seededRandom } from '../numerics/index.ts';
import {
  forecastGrind,
  gritAt,
  groundBy,
  micrometerUncertainty,
  misreadGrit,
  USUAL_GRIND_PRIOR,
  type GritReading,
} from './index.ts';

const of = (pairs: [number, number][]): GritReading[] => pairs.map(([hours, um]) => ({ hours, um }));

test.each<[string, [number, number][], number[]]>([
  [
    'a nought too many',
    [
      [2, 80],
      [8, 48],
      [16, 310],
      [24, 24],
    ],
    [310],
  ],
  [
    'a comma slipped, at the end',
    [
      [2, 80],
      [8, 48],
      [16, 31],
      [20, 2.7],
    ],
    [2.7],
  ],
  [
    'a nought too many as the second of three',
    [
      [2, 80],
      [8, 480],
      [16, 31],
    ],
    [480],
  ],
  [
    'two of six',
    [
      [2, 80],
      [6, 5.8],
      [10, 43],
      [14, 350],
      [18, 29],
      [24, 24],
    ],
    [5.8, 350],
  ],
  [
    'a plain grind',
    [
      [2, 80],
      [8, 48],
      [16, 31],
      [24, 24],
    ],
    [],
  ],
  [
    'two readings only',
    [
      [2, 80],
      [8, 480],
    ],
    [],
  ],
  [
    'readings that scatter a little',
    [
      [2, 80],
      [8, 48],
      [16, 31],
      [17, 34],
      [24, 24],
    ],
    [],
  ],
])('%s', (_, pairs, wrong) => {
  const readings = of(pairs);
  const found = misreadGrit(readings).map((r) => r.um);
  expect(found.toSorted((a, b) => a - b)).toEqual(wrong);
});

/** A simulated mill, read six times; from some reading on at a share of its pace. */
function grind(seed: number, slips: boolean): GritReading[] {
  const random = seededRandom(seed);
  const draw = ({ median, factor }: { median: number; factor: number }) =>
    median * Math.exp(Math.log(factor) * normalDraw(random));
  const { rate, finest, coarse } = USUAL_GRIND_PRIOR;
  const curve = { rate: draw(rate), finest: draw(finest), coarse: draw(coarse) };
  const times = of([0.1, 0.4, 0.8, 1.2, 1.7, 2.3].map((k) => [k / curve.rate, 1]));
  const ground = slips ? groundBy(times, { sinceHours: 1 / curve.rate, pace: 0.3 + 0.4 * random() }) : times;
  return times.map(({ hours }, i) => {
    const truth = gritAt(curve, ground[i]!.hours);
    return { hours, um: Math.max(1, truth + micrometerUncertainty(truth) * normalDraw(random)) };
  });
}

test('in 300 simulated grinds, half of them slipping, none is called misread that was read', () => {
  const called = Array.from({ length: 300 }, (_, k) => misreadGrit(grind(500 + k, k % 2 === 1)).length);
  expect(called.reduce((a, b) => a + b, 0)).toBeLessThanOrEqual(3);
});

test('of 300 slips of a digit nine in ten are found, and the forecast is that without them', () => {
  let [found, near, all] = [0, 0, 0];
  for (let k = 0; k < 300; k += 1) {
    const readings = grind(2000 + k, false);
    const i = k % 6;
    const slipped = readings.map((r, n) => (n === i ? { ...r, um: k % 4 < 2 ? 10 * r.um : r.um / 10 } : r));
    const misread = misreadGrit(slipped);
    if (misread.length === 1 && misread[0] === slipped[i]) found += 1;
    const stop = (list: GritReading[]) => {
      const f = forecastGrind({ readings: list, aimUm: 25 });
      return f.ok ? f.toAim.median : NaN;
    };
    const [kept, without] = [
      stop(slipped.filter((r) => !misread.includes(r))),
      stop(readings.filter((_, n) => n !== i)),
    ];
    if (!Number.isFinite(without)) continue;
    all += 1;
    if (Math.abs(kept - without) < 0.1 * without + 0.5) near += 1;
  }
  expect(found).toBeGreaterThan(270);
  expect(near).toBeGreaterThan(0.9 * all);
});

test('segments are judged apart, and nonsense is refused', () => {
  const second = of([
    [1, 200],
    [6, 90],
    [12, 55],
  ]).map((r) => ({ ...r, segment: 1 }));
  expect(
    misreadGrit([
      ...of([
        [2, 80],
        [8, 48],
        [16, 31],
      ]),
      ...second,
    ]),
  ).toEqual([]);
  expect(misreadGrit([])).toEqual([]);
  expect(() =>
    misreadGrit(
      of([
        [1, 0],
        [2, 3],
        [3, 4],
      ]),
    ),
  ).toThrow(RangeError);
  expect(() =>
    misreadGrit(
      of([
        [1, Number.NaN],
        [2, 3],
        [3, 4],
      ]),
    ),
  ).toThrow(RangeError);
});
