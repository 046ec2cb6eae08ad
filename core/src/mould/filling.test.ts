import fc from 'fast-check';
import { STARTER_INGREDIENTS, type RecipeLine } from '../recipe/index.ts';
import { fillingKeepsUntil, fillingWater, waterActivity } from './index.ts';

const line = (key: string, grams: number): RecipeLine => ({
  ingredient: { id: key, ...STARTER_INGREDIENTS.find((i) => i.key === key)! },
  massMg: grams * 1000,
});

/** Couverture of 60 % cacao and 38 % fat. */
const dark = (grams: number): RecipeLine[] => [
  line('cane-sugar', 0.4 * grams),
  line('liquor', 0.52 * grams),
  line('cocoa-butter', 0.08 * grams),
];

describe('a solution', () => {
  // Grams in 100 g of solution at 25 °C, and the water activity that was measured over it.
  test.each([
    ['saturated cane sugar (Bell and Labuza 2000: 0.84 to 0.86)', { sucrose: 67.5 }, 0.843, 0.013],
    ['saturated glucose (0.89)', { invert: 51 }, 0.89, 0.01],
    ['one molal cane sugar (Robinson and Stokes: 0.9806)', { sucrose: 25.5 }, 0.9806, 0.002],
    ['honey of 18 % water (0.55 to 0.60)', { invert: 82 }, 0.57, 0.035],
    ['sea water of 3.5 % salt (0.98)', { salt: 3.5 }, 0.98, 0.002],
  ] as const)('%s', (_, solutes, measured, within) => {
    const grams = Object.values(solutes).reduce((a, b) => a + b, 0);
    expect(Math.abs(waterActivity(100 - grams, solutes) - measured)).toBeLessThan(within);
  });

  test('pure water has 1, and dilute solutions follow Raoult: a mole of anything in 55.5 of water takes the same', () => {
    expect(waterActivity(100, {})).toBe(1);
    const molal = (solute: 'sucrose' | 'invert', molar: number) =>
      1 - waterActivity(1000, { [solute]: 0.01 * molar });
    expect(molal('sucrose', 342.3)).toBeCloseTo(0.01 / 55.52, 6);
    expect(molal('invert', 180.16)).toBeCloseTo(molal('sucrose', 342.3), 6);
  });

  test('more of anything dissolved never makes water freer, and it stays between 0 and 1', () => {
    const grams = fc.double({ min: 0, max: 300, noNaN: true });
    fc.assert(
      fc.property(fc.record({ sucrose: grams, invert: grams, salt: grams }), grams, (solutes, more) => {
        const before = waterActivity(100, solutes);
        const after = waterActivity(100, { ...solutes, invert: solutes.invert + more });
        return before <= 1 && after > 0 && after <= before + 1e-12;
      }),
    );
  });

  test.each([
    [0, {}],
    [Number.NaN, {}],
    [100, { sucrose: -1 }],
  ])('of %s g of water with %j is refused', (water, solutes) => {
    expect(() => waterActivity(water, solutes)).toThrow(RangeError);
  });
});

describe('a filling', () => {
  test('a plain cream ganache is as wet as such are found to be (0.90 to 0.95), one with syrup drier', () => {
    const plain = fillingWater([...dark(500), line('cream', 400)]);
    expect(plain.water).toBeCloseTo((400 * 0.585 + 260 * 0.02 + 200 * 0.001) / 9, 1);
    expect(plain.activity!.low).toBeGreaterThan(0.86);
    expect(plain.activity!.high).toBeGreaterThan(0.92);
    expect(plain.activity!.high).toBeLessThan(0.96);
    const syrupy = fillingWater([...dark(500), line('cream', 250), line('invert-sugar-syrup', 120)]);
    expect(syrupy.activity!.high).toBeLessThan(plain.activity!.low + 0.02);
    expect(syrupy.activity!.low).toBeLessThan(plain.activity!.low);
  });

  test('honey alone lies within its own bounds, and crystals that lie in a syrup do not dry it further', () => {
    const honey = fillingWater([line('honey', 100)]);
    expect(honey.activity!.low).toBeLessThan(0.6);
    const syrup = (sugar: number) => fillingWater([line('cane-sugar', sugar), line('fresh-milk', 20)]);
    expect(syrup(60).activity!.high).toBeCloseTo(syrup(80).activity!.high, 2);
    expect(syrup(80).activity!.high).toBeGreaterThan(0.82);
  });

  test('water that boils off makes it drier; nuts and chocolate have no syrup to reckon with', () => {
    const cream = [line('cane-sugar', 300), line('cream', 400)];
    const boiled = fillingWater(cream, 120_000);
    expect(boiled.water).toBeCloseTo((100 * (400 * 0.585 + 0.3 - 120)) / 580, 1);
    expect(boiled.activity!.high).toBeLessThan(fillingWater(cream).activity!.high);
    const praline = fillingWater([line('hazelnuts', 500), ...dark(500)]);
    expect(praline.activity).toBeNull();
    expect(praline.water).toBeLessThan(2);
  });

  test('the same filling in other amounts is the same, and its bounds stand in order', () => {
    const grams = fc.integer({ min: 1, max: 900 });
    fc.assert(
      fc.property(grams, grams, grams, fc.integer({ min: 2, max: 9 }), (cream, sugar, butter, times) => {
        const of = (n: number) =>
          fillingWater([line('cream', n * cream), line('cane-sugar', n * sugar), line('butter', n * butter)]);
        const [one, many] = [of(1), of(times)];
        expect(many.water).toBeCloseTo(one.water, 9);
        if (!one.activity) return;
        expect(many.activity!.high).toBeCloseTo(one.activity.high, 9);
        expect(one.activity.low).toBeLessThanOrEqual(one.activity.high);
        expect(one.activity.high).toBeLessThanOrEqual(1);
      }),
    );
  });

  test('an empty pot, and one from which more boiled off than there was, are refused', () => {
    expect(() => fillingWater([])).toThrow(/above 0/);
    expect(() => fillingWater([line('cream', 100)], 59_000)).toThrow(/more has boiled off/);
    expect(() => fillingWater([line('cream', 100)], Number.NaN)).toThrow(RangeError);
    expect(() => fillingWater([line('cream', -1)])).toThrow(RangeError);
  });

  test('the day it keeps until is counted from the day it was made, over the end of a year too', () => {
    expect(fillingKeepsUntil('2026-12-20', 0.84)).toBe('2027-01-10');
    expect(fillingKeepsUntil('2026-02-27', 0.95)).toBe('2026-03-02');
    expect(() => fillingKeepsUntil('yesterday', 0.8)).toThrow(/2026-11-30/);
    expect(() => fillingKeepsUntil('2026-02-27', 1.2)).toThrow(RangeError);
  });
});
