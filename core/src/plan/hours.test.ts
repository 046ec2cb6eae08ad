import { dayOf, firstDayFor, instantOf, minuteOfDay, openSpans, USUAL_WEEK } from './index.ts';

const ZONES = ['Pacific/Fiji', 'Asia/Kolkata', 'Europe/London', 'America/Los_Angeles', 'Pacific/Honolulu'];

describe.each(ZONES)('a day in %s', (timeZone) => {
  const clock = new Intl.DateTimeFormat('sv-SE', { timeZone, dateStyle: 'short', timeStyle: 'short' });
  test('begins and ends by its own clock', () => {
    for (const day of ['2026-01-01', '2026-03-29', '2026-06-30', '2026-10-25', '2026-11-01', '2028-02-29'])
      for (const minute of [0, 8 * 60, 17 * 60, 1439]) {
        const at = instantOf(day, minute, timeZone);
        const two = (n: number) => String(n).padStart(2, '0');
        // An independent clock reads the same, summer time or not.
        expect(clock.format(new Date(at))).toBe(`${day} ${two(Math.floor(minute / 60))}:${two(minute % 60)}`);
        expect(dayOf(Date.parse(at), timeZone)).toBe(day);
      }
  });

  test('the first day for what is ready at an instant: that day until the hour, then the next', () => {
    for (const [day, next] of [
      ['2026-03-28', '2026-03-29'],
      ['2026-10-31', '2026-11-01'],
      ['2026-12-31', '2027-01-01'],
    ] as const) {
      const five = Date.parse(instantOf(day, 17 * 60, timeZone));
      expect(
        [-60_000, 0, 60_000, 6 * 3_600_000].map((ms) => firstDayFor(five + ms, 17 * 60, timeZone)),
      ).toEqual([day, day, next, next]);
    }
  });

  test('eight is eight on the days the clocks change', () => {
    for (const day of ['2026-03-08', '2026-03-29', '2026-10-25', '2026-11-01']) {
      const noon = Date.parse(instantOf(day, 12 * 60, timeZone));
      expect(new Date(minuteOfDay(noon, 8 * 60, timeZone)).toISOString()).toBe(
        instantOf(day, 8 * 60, timeZone),
      );
    }
  });
});

test.each([
  ['no day', '', 0],
  ['the 31st of February', '2026-02-31', 0],
  ['the 29th of a year without one', '2026-02-29', 0],
  ['a day written otherwise', '18.12.2026', 0],
  ['an instant', '2026-12-18T10:00:00Z', 0],
  ['a minute of the day before', '2026-12-18', -1],
  ['a minute of the day after', '2026-12-18', 1441],
  ['no minute', '2026-12-18', NaN],
])('%s is refused', (_, day, minute) => {
  expect(() => instantOf(day, minute, 'Europe/London')).toThrow(RangeError);
});

describe('open hours', () => {
  const room = { now: '2026-12-23T06:00:00.000Z', timeZone: 'Europe/London', holidays: ['2026-12-25'] };
  const hours = (spans: ReturnType<typeof openSpans>) =>
    spans.reduce((sum, [from, to]) => sum + (to - from) / 3_600_000, 0);
  const inDay = USUAL_WEEK[0]!.reduce((sum, [from, to]) => sum + (to - from) / 60, 0);

  test('a holiday and a weekend are closed', () => {
    // Wednesday to Tuesday: a holiday on the Friday, a weekend.
    const spans = openSpans(room, USUAL_WEEK, [], 7);
    expect(new Set(spans.map(([from]) => dayOf(from, room.timeZone)))).toEqual(
      new Set(['2026-12-23', '2026-12-24', '2026-12-28', '2026-12-29']),
    );
    expect(hours(spans)).toBeCloseTo(4 * inDay, 9);
  });

  test('an absence takes out what it covers and no more', () => {
    const noon = instantOf('2026-12-24', 12 * 60, room.timeZone);
    const away = { id: 'a', who: 'x', from: noon, to: instantOf('2026-12-28', 0, room.timeZone) };
    const spans = openSpans(room, USUAL_WEEK, [away as never], 7);
    for (const [from, to] of spans)
      expect(to <= Date.parse(away.from) || from >= Date.parse(away.to)).toBe(true);
    expect(hours(spans)).toBeLessThan(4 * inDay);
    expect(hours(spans)).toBeGreaterThanOrEqual(3 * inDay);
  });

  test.each([
    ['six days', USUAL_WEEK.slice(0, 6)],
    ['hours out of order', [[[720, 480]], [], [], [], [], [], []]],
  ])('a week of %s is refused', (_, week) => {
    expect(() => openSpans(room, week as never, [], 7)).toThrow(RangeError);
  });
});
