import { runsOut } from './runsOut.ts';

test('what is there lasts as long as the pace it was used at', () => {
  expect(runsOut({ onHand: 30, used: 84, days: 84 })).toBe(30);
  expect(runsOut({ onHand: 0, used: 84, days: 84 })).toBe(0);
  expect(runsOut({ onHand: 30, used: 0, days: 84 })).toBeNull();
});

test('nonsense is refused', () => {
  expect(() => runsOut({ onHand: -1, used: 1, days: 1 })).toThrow(RangeError);
  expect(() => runsOut({ onHand: 1, used: Number.NaN, days: 1 })).toThrow(RangeError);
  expect(() => runsOut({ onHand: 1, used: 1, days: 0 })).toThrow(RangeError);
});
