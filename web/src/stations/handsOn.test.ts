import { handsOnSince } from './handsOn.ts';

test('minutes under hands are whole, at most what is plausible, and never below none', () => {
  const began = '2026-10-02T08:00:00Z';
  const at = (minutes: number) => Date.parse(began) + minutes * 60_000;
  expect(handsOnSince(began, at(12.4), 120)).toBe(12);
  expect(handsOnSince(began, at(900), 120)).toBe(120);
  // A phone a few minutes behind the server must not lose the pour for it.
  expect(handsOnSince(began, at(-3), 120)).toBe(0);
});
