import { pressYield, readPressing } from './index.ts';

const kg = 1e6;

test('by hand: 10 kg of liquor at 54 %, pressed to a cake of 20 %, give 4.25 kg of butter', () => {
  const { butterMg, cakeMg } = pressYield({ liquorMg: 10 * kg, liquorFat: 54, cakeFat: 20 });
  expect(butterMg).toBeCloseTo(4.25 * kg, 6);
  expect(cakeMg).toBeCloseTo(5.75 * kg, 6);
  // The fat balance: 5.4 kg went in; butter and a fifth of the cake came out.
  expect(butterMg + 0.2 * cakeMg).toBeCloseTo(5.4 * kg, 6);
});

test('what the scales say of a pressing is what would have foretold it', () => {
  for (const liquorFat of [48, 54, 58])
    for (const cakeFat of [0, 11, 22, liquorFat]) {
      const out = pressYield({ liquorMg: 7.3 * kg, liquorFat, cakeFat });
      const read = readPressing({ liquorMg: 7.3 * kg, liquorFat, ...out });
      expect(read.cakeFat).toBeCloseTo(cakeFat, 9);
      expect(read.lostMg).toBeCloseTo(0, 3);
      expect(read.recovered).toBeCloseTo(out.butterMg / (7.3 * kg * (liquorFat / 100)), 12);
    }
  const lost = readPressing({ liquorMg: 10 * kg, butterMg: 4 * kg, cakeMg: 5.8 * kg });
  expect(lost.lostMg).toBeCloseTo(0.2 * kg, 3);
  expect(lost.cakeFat).toBeCloseTo((100 * 1.4) / 6, 9);
});

test('weights that cannot be are refused with what would be right', () => {
  expect(() => readPressing({ liquorMg: 10 * kg, butterMg: 5.5 * kg, cakeMg: 4 * kg })).toThrow(
    /5400 g of fat/,
  );
  expect(() => readPressing({ liquorMg: 10 * kg, butterMg: 4 * kg, cakeMg: 6.1 * kg })).toThrow(
    /weigh again/,
  );
  expect(() => pressYield({ liquorMg: 10 * kg, liquorFat: 50, cakeFat: 55 })).toThrow(/cannot hold more fat/);
  expect(() => pressYield({ liquorMg: 0, cakeFat: 20 })).toThrow(/something has to go/);
});
