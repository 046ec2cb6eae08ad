import { USUAL_WEEK, type PlannedStep } from '@wunsch/core/plan';
import { blocksOf, hoursByPerson, readyBlocksOf } from './blocks.ts';
import { placeOf } from './place.ts';
import { readHours, writeHours } from './hoursText.ts';
import { scaleOf, ZOOMS } from './scale.ts';

const room = {
  now: '2026-11-26T09:00:00.000Z',
  timeZone: 'Europe/London',
  holidays: ['2026-12-25'],
  week: USUAL_WEEK,
  people: [],
  absences: [],
};
const at = (iso: string) => Date.parse(iso);

describe('time down the page', () => {
  test.each(ZOOMS)('%s: time runs on, and a height is the instant it came from', (zoom) => {
    const scale = scaleOf(room, zoom);
    let last = -1;
    for (let h = 0; h < 72; h += 1) {
      const y = scale.y(at('2026-11-26T00:00:00Z') + h * 3_600_000);
      expect(y).toBeGreaterThanOrEqual(last);
      last = y;
    }
    const noon = at('2026-11-27T11:00:00Z');
    expect(Math.abs(scale.at(scale.y(noon)) - noon)).toBeLessThanOrEqual(5 * 60_000);
  });

  test('an hour at night is narrower than an hour of work, and nobody works on a Sunday or a holiday', () => {
    const scale = scaleOf(room, 'week');
    const height = (from: string) => scale.y(at(from) + 3_600_000) - scale.y(at(from));
    expect(height('2026-11-27T02:00:00Z')).toBeLessThan(height('2026-11-27T10:00:00Z') / 3);
    expect(scale.days.filter((d) => d.closed).map((d) => d.day)).toContain('2026-11-29');
    expect(scaleOf(room, 'month').days.find((d) => d.day === '2026-12-25')!.closed).toBe(true);
  });
});

const step = (more: Partial<PlannedStep>): PlannedStep => ({
  key: `${more.batch ?? 'b'}/${more.stage ?? 'roast'}/${more.part ?? 1}`,
  batch: 'b',
  code: 'TL-16',
  batchId: null,
  recipeId: null,
  lotId: null,
  stage: 'roast',
  station: 'roast',
  part: 1,
  parts: 1,
  start: '2026-11-26T09:00:00.000Z',
  end: '2026-11-26T11:00:00.000Z',
  latest: null,
  personId: 'AK',
  machineId: null,
  begun: false,
  massMg: 1e6,
  ...more,
});

describe('machines made ready', () => {
  const hands = { personId: 'JB', start: '2026-11-27T08:30:00.000Z', end: '2026-11-27T10:00:00.000Z' };
  const load = step({
    stage: 'load',
    station: 'grind',
    machineId: 'ida',
    start: '2026-11-27T10:00:00.000Z',
    end: '2026-11-27T10:30:00.000Z',
    setUp: { kind: 'clean', minutes: 90, after: 'NK-08', hands },
  });
  const ready = (steps: PlannedStep[]) =>
    readyBlocksOf(steps, blocksOf(steps, 'Europe/London', ['ida', 'otto']));

  test('lie in the lane of the charge they are for, in somebody’s time', () => {
    const [block] = ready([load]);
    expect([block!.start, block!.end, block!.lane, block!.lanes]).toEqual([
      at(hands.start),
      at(hands.end),
      0,
      2,
    ]);
    expect(hoursByPerson([load], 'Europe/London').get('2026-11-27')).toEqual(
      new Map([
        ['AK', 0.5],
        ['JB', 1.5],
      ]),
    );
  });

  test('are nothing where the charge is in, nobody is free, or nothing is wanted', () => {
    expect(ready([{ ...load, begun: true }])).toEqual([]);
    expect(ready([{ ...load, setUp: { ...load.setUp!, hands: null } }])).toEqual([]);
    expect(ready([{ ...load, setUp: null }])).toEqual([]);
  });
});

describe('blocks', () => {
  test('parts of a day are one block, those of another day another; what overlaps lies side by side', () => {
    const blocks = blocksOf(
      [
        step({}),
        step({ part: 2, start: '2026-11-26T13:00:00.000Z', end: '2026-11-26T14:00:00.000Z' }),
        step({ part: 3, start: '2026-11-27T09:00:00.000Z', end: '2026-11-27T10:00:00.000Z' }),
        step({ batch: 'c', code: 'NK-01', start: '2026-11-26T10:00:00.000Z' }),
      ],
      'Europe/London',
      [],
    );
    expect(blocks.map((b) => [b.code, b.lane, b.lanes])).toEqual([
      ['TL-16', 0, 2],
      ['NK-01', 1, 2],
      ['TL-16', 0, 1],
    ]);
    expect(blocks[0]!.end).toBe(at('2026-11-26T14:00:00Z'));
  });

  test('a grinding is one block from its loading to its drawing off, in the lane of its grinder', () => {
    const grind = { station: 'grind' as const, machineId: 'otto' };
    const [block] = blocksOf(
      [
        step({ ...grind, stage: 'load', end: '2026-11-26T09:30:00.000Z' }),
        step({
          ...grind,
          stage: 'grind',
          personId: null,
          start: '2026-11-26T09:30:00.000Z',
          end: '2026-11-27T15:30:00.000Z',
        }),
        step({ ...grind, stage: 'draw', start: '2026-11-27T15:30:00.000Z', end: '2026-11-27T16:00:00.000Z' }),
      ],
      'Europe/London',
      ['ida', 'otto'],
    );
    expect([block!.lane, block!.lanes, block!.steps.length]).toEqual([1, 2, 3]);
  });

  test('what goes on in a conche is a block of its own, in the lane of the conche', () => {
    const blocks = blocksOf(
      [
        step({ station: 'grind', stage: 'draw', machineId: 'otto' }),
        step({ station: 'grind', stage: 'fill', machineId: 'mixer', start: '2026-11-26T11:00:00.000Z' }),
        step({
          station: 'grind',
          stage: 'conche',
          machineId: 'mixer',
          start: '2026-11-26T11:20:00.000Z',
          end: '2026-11-27T11:20:00.000Z',
        }),
      ],
      'Europe/London',
      ['otto', 'mixer'],
    );
    expect(blocks.map((b) => [b.lane, b.steps.map((s) => s.stage)])).toEqual([
      [0, ['draw']],
      [1, ['fill', 'conche']],
    ]);
  });

  test('of two plans beside each other each has its half of every column', () => {
    const scale = scaleOf(room, 'week');
    const blocks = blocksOf(
      [step({}), step({ batch: 'c', start: '2026-11-26T10:00:00.000Z' })],
      'Europe/London',
      [],
    );
    const places = (half: 'left' | 'right' | null) =>
      blocks.map((b) => placeOf(b, scale, ['roast'], half)!).map((p) => [p.left, p.width]);
    expect(places(null)).toEqual([
      [0, 0.5],
      [0.5, 0.5],
    ]);
    expect(places('left')).toEqual([
      [0, 0.25],
      [0.25, 0.25],
    ]);
    expect(places('right')).toEqual([
      [0.5, 0.25],
      [0.75, 0.25],
    ]);
    expect(placeOf(blocks[0]!, scale, ['sort'])).toBeNull();
  });

  test('hours of a person are what their hands do, not what goes on by itself', () => {
    const hours = hoursByPerson(
      [
        step({}),
        step({ stage: 'set', station: 'mould', personId: 'AK' }),
        step({ batch: 'c', personId: 'JB' }),
      ],
      'Europe/London',
    );
    expect([...hours.get('2026-11-26')!]).toEqual([
      ['AK', 2],
      ['JB', 2],
    ]);
  });
});

describe('hours as they are typed', () => {
  test.each([
    [
      '8:30–12:30, 13:30–17:00',
      [
        [510, 750],
        [810, 1020],
      ],
    ],
    [
      '8-12; 13-17',
      [
        [480, 720],
        [780, 1020],
      ],
    ],
    ['8.15 bis 12', [[495, 720]]],
    ['', []],
    ['17-8', null],
    ['8-12, 11-13', null],
    ['8:75-12', null],
    ['8-25', null],
    ['morning', null],
  ])('%s', (text, read) => {
    expect(readHours(text)).toEqual(read);
    if (read) expect(readHours(writeHours(read as [number, number][]))).toEqual(read);
  });
});
