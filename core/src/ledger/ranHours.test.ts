import { ranHours } from './index.ts';

const over = (
  kind: 'winnow' | 'roast' | 'grind' | 'sort',
  hours: number,
  handsOnMinutes: number | null = null,
) => ({
  kind,
  startedAt: '2026-10-01T08:00:00.000Z',
  endedAt: new Date(Date.parse('2026-10-01T08:00:00Z') + hours * 3_600_000).toISOString(),
  handsOnMinutes,
});

test('a machine runs from the beginning of its step to the end, without the pauses', () => {
  expect(ranHours(over('grind', 24))).toBe(24);
  const night = { from: Date.parse('2026-10-01T21:00:00Z'), to: Date.parse('2026-10-02T07:00:00Z') };
  expect(ranHours({ ...over('grind', 24), pauses: [night] })).toBe(14);
  // Twenty minutes of hands are not the hours of a grinder.
  expect(ranHours(over('grind', 24, 20))).toBe(24);
  expect(ranHours(over('roast', 0.5, 30))).toBe(0.5);
});

test('where hands stand all the while it ran no longer than they were there, as far as anybody said', () => {
  expect(ranHours(over('winnow', 15, 45))).toBe(0.75);
  expect(ranHours(over('winnow', 0.5, 45))).toBe(0.5);
  expect(ranHours(over('sort', 15))).toBe(15);
  expect(ranHours(over('sort', 15, 0))).toBe(15);
});

test('what is no instant or less than no time is refused', () => {
  expect(() => ranHours({ ...over('winnow', 1), endedAt: 'noon' })).toThrow(RangeError);
  expect(() => ranHours(over('winnow', 1, -5))).toThrow(/minutes of hands/);
  expect(() => ranHours(over('winnow', 1, Number.NaN))).toThrow(RangeError);
});
