import { handsOnSince, handsThroughout } from './handsOn.ts';

test('minutes under hands are whole, at most what is plausible, and never below none', () => {
  const began = '2026-10-02T08:00:00Z';
  const at = (minutes: number) => Date.parse(began) + minutes * 60_000;
  expect(handsOnSince(began, at(12.4), 120)).toBe(12);
  expect(handsOnSince(began, at(900), 120)).toBe(120);
  // A phone a few minutes behind the server must not lose the pour for it.
  expect(handsOnSince(began, at(-3), 120)).toBe(0);
});

test('where hands stand all the while it is what has gone by, unless it was left lying over night', () => {
  const began = '2026-10-02T08:00:00Z';
  const at = (minutes: number) => Date.parse(began) + minutes * 60_000;
  expect(handsThroughout(began, at(25))).toBe(25);
  // Three hours of sorting are three hours.
  expect(handsThroughout(began, at(180))).toBe(180);
  expect(handsThroughout(began, at(15 * 60))).toBe(60);
  expect(handsThroughout(began, at(-3))).toBe(1);
});
