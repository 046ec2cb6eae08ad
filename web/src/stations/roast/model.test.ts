import { modelEvents } from '@wunsch/core/roast';
import type { RoastRecord } from '@wunsch/contract';
import {
  loggedRoast,
  eventsOf,
  ovenKind,
  seriesOf,
  stageNow,
  stirEvery,
  usualOven,
  weighedRoast,
} from './model.ts';

const BEGAN = '2026-11-20T09:00:00Z';
const at = (seconds: number) => new Date(Date.parse(BEGAN) + seconds * 1000).toISOString();
const PLAN = {
  name: 'two',
  stages: [
    { name: 'warm', setC: 110, minutes: 10, fan: true },
    { name: 'hold', setC: 125, minutes: 20, fan: true },
  ],
};

test.each([
  ['Fan oven', 'fan'],
  ['Umluft', 'fan'],
  ['small drum', 'drum'],
  ['Trommelröster', 'drum'],
  ['static oven', 'still'],
  ['Ober-/Unterhitze', 'still'],
  ['', 'fan'],
] as const)('%j is a %s oven', (words, kind) => expect(ovenKind(words)).toBe(kind));

test('an oven’s power follows its size, a trade’s usual size where none is given', () => {
  const power = (maxMg: number | null) => usualOven({ kind: 'fan', maxMg }).power;
  expect(power(6_000_000)).toBeCloseTo(2 * power(3_000_000), 6);
  expect(power(null)).toBeGreaterThan(0);
  expect(usualOven(undefined).power).toBe(power(null));
});

test('hands become what the model understands; a smell changes nothing in the oven', () =>
  expect(
    modelEvents(
      [
        { name: 'stirred', at: at(300), value: null },
        { name: 'smells-of-baking', at: at(420), value: null },
        { name: 'door', at: at(480), value: 40 },
        { name: 'set', at: at(540), value: 130 },
        { name: 'set', at: at(550), value: null },
        { name: 'next-stage', at: at(560), value: null },
      ],
      BEGAN,
    ),
  ).toEqual([
    { seconds: 300, kind: 'stir', lasts: 20 },
    { seconds: 480, kind: 'door', lasts: 40 },
    { seconds: 540, kind: 'set', setC: 130 },
    { seconds: 560, kind: 'next-stage' },
  ]));

test('events are those of this load, whatever else is noted beside it', () => {
  const observation = (id: string, stepId: string, data: object) =>
    ({ id, batchId: 'b', stepId, lotId: null, at: at(10), by: 'AK', data }) as never;
  expect(
    eventsOf(
      [
        observation('1', 's', { kind: 'event', name: 'stirred' }),
        observation('2', 'other', { kind: 'event', name: 'stirred' }),
        observation('3', 's', { kind: 'note', text: 'smoky' }),
        observation('4', 's', { kind: 'event', name: 'set', value: 120 }),
      ],
      's',
    ),
  ).toEqual([
    { id: '1', name: 'stirred', at: at(10), value: null, by: 'AK' },
    { id: '4', name: 'set', at: at(10), value: 120, by: 'AK' },
  ]);
});

describe('the stage that runs', () => {
  const now = (seconds: number, hands: number[] = []) =>
    stageNow(
      PLAN,
      { startedAt: BEGAN },
      hands.map((s) => ({ name: 'next-stage', at: at(s) })),
      seconds,
    );

  test('by the clock', () => {
    expect(now(0)).toEqual({ index: 0, endsAt: 600 });
    expect(now(599)).toEqual({ index: 0, endsAt: 600 });
    expect(now(600)).toEqual({ index: 1, endsAt: 1800 });
    expect(now(1800)).toBeNull();
  });

  test('a hand ends it early, and the next then runs its whole length from there', () => {
    expect(now(200, [400])).toEqual({ index: 0, endsAt: 400 });
    expect(now(400, [400])).toEqual({ index: 1, endsAt: 1600 });
    expect(now(1599, [400])).toEqual({ index: 1, endsAt: 1600 });
    expect(now(1600, [400])).toBeNull();
  });

  test('two hands, noted in the wrong order, end two stages', () => {
    expect(now(500, [900, 400])).toEqual({ index: 1, endsAt: 900 });
    expect(now(900, [900, 400])).toBeNull();
  });
});

test('an oven is stirred as often as the workshop does, a drum turns by itself', () => {
  expect(stirEvery({ stirMinutes: 6 }, { kind: 'fan oven' })).toBe(360);
  expect(stirEvery({ stirMinutes: 6 }, undefined)).toBe(360);
  expect(stirEvery({ stirMinutes: 6 }, { kind: 'Trommelröster' })).toBeUndefined();
  expect(stirEvery({ stirMinutes: null }, { kind: 'fan oven' })).toBeUndefined();
});

describe('a roast for the model', () => {
  const record = (part: object = {}) =>
    ({
      step: { startedAt: BEGAN, details: { plan: PLAN } },
      lot: { moisture: 7, beansPer100g: 90 },
      inMg: 2_900_000,
      events: [{ name: 'stirred', at: at(60), value: null }],
      series: [
        {
          place: 'bean',
          probe: 'a',
          startedAt: at(30),
          count: 2,
          points: [
            [0, 40],
            [10, 42],
          ],
        },
        {
          place: 'bean',
          probe: 'b',
          startedAt: at(5),
          count: 3,
          points: [
            [0, 30],
            [10, 33],
            [20, 36],
          ],
        },
        { place: 'oven', probe: 'a', startedAt: BEGAN, count: 1, points: [[0, 110]] },
      ],
      ...part,
    }) as unknown as RoastRecord;

  test('a finished load says what it lost, and when it came out', () => {
    const closed = (more: object = {}, step: object = {}) =>
      weighedRoast(
        record({
          outMg: 2_726_000,
          step: { startedAt: BEGAN, endedAt: at(2000), details: { plan: PLAN }, ...step },
          ...more,
        }),
      );
    expect(closed()).toMatchObject({ outSeconds: 2000, lossShare: 1 - 2726 / 2900 });
    expect(closed({ events: [{ name: 'beans-out', at: at(1810), value: null }] })!.outSeconds).toBe(1810);
    expect(closed({ outMg: 0 })).toBeNull();
    expect(closed({}, { endedAt: null })).toBeNull();
    // Weighed the next morning, and nobody said when it came out.
    expect(closed({}, { endedAt: at(50_000) })).toBeNull();
    expect(closed({}, { details: {} })).toBeNull();
    // Nibs dry faster, and what was roasted before has little left to lose.
    expect(closed({ inMaterial: 'sorted beans' })).not.toBeNull();
    expect(closed({ inMaterial: 'nibs' })).toBeNull();
    expect(closed({ inMaterial: 'roasted beans' })).toBeNull();
  });

  test('its longest series counts, timed from beans-in and not from its own start', () => {
    expect(seriesOf(record(), 'bean').map((r) => r.seconds)).toEqual([5, 15, 25]);
    expect(seriesOf(record(), 'oven')).toEqual([{ seconds: 0, celsius: 110 }]);
    expect(seriesOf(record({ series: [] }), 'bean')).toEqual([]);
  });

  test('carries load, plan and hands; without a plan or a load there is nothing to learn', () => {
    expect(loggedRoast(record())).toMatchObject({
      loadKg: 2.9,
      plan: PLAN,
      events: [{ kind: 'stir', seconds: 60 }],
    });
    expect(loggedRoast(record({ inMg: 0 }))).toBeNull();
    expect(loggedRoast(record({ step: { startedAt: BEGAN, details: {} } }))).toBeNull();
  });
});
