import { paperDay } from './day.ts';

test.each([
  ['2026-10-31T23:30:00Z', 'en', 'Europe/Berlin', '1 Nov 2026'],
  ['2026-10-31T23:30:00Z', 'en', 'America/New_York', '31 Oct 2026'],
  ['2026-10-31T23:30:00Z', 'de', 'Europe/Berlin', '01.11.2026'],
  // A best-before day is that day everywhere.
  ['2026-10-01', 'en', 'America/New_York', '1 Oct 2026'],
  ['2026-10-01', 'en', 'Pacific/Auckland', '1 Oct 2026'],
] as const)('%s on paper in %s, %s', (at, language, zone, text) => {
  expect(paperDay(at, language, zone)).toBe(text);
});

test('what is no day is refused', () => {
  expect(() => paperDay('yesterday', 'en', 'UTC')).toThrow(RangeError);
  expect(() => paperDay('2026-10-01T00:00:00Z', 'en', 'Nowhere')).toThrow(RangeError);
});
