import fc from 'fast-check';
import {
  figureOf,
  recipeFigures,
  solveRecipe,
  STARTER_INGREDIENTS,
  type RecipeLine,
  type Wish,
} from './index.ts';

const shelf = new Map(STARTER_INGREDIENTS.map((i) => [i.key, { ...i, id: i.key }]));
const lines = (grams: Record<string, number>): RecipeLine[] =>
  Object.entries(grams).map(([key, g]) => ({ ingredient: shelf.get(key)!, massMg: g * 1000 }));
const fix = (figure: Wish['figure'], value: number): Wish => ({ figure, min: value, max: value });
const plain = { nibs: 700, 'cane-sugar': 300 };

describe('known optima', () => {
  test('75 % from nibs and sugar is three to one', () => {
    const a = solveRecipe({ lines: lines(plain), wishes: [fix('cacaoAll', 75)] });
    expect(a.ok && a.lines.map((l) => l.massMg)).toEqual([750_000, 250_000]);
  });
  test('butter is the only way to 75 % all cocoa with 70 % beans', () => {
    const a = solveRecipe({
      lines: lines({ ...plain, 'cocoa-butter': 0 }),
      wishes: [fix('cacaoAll', 75), fix('cacaoBeans', 70)],
    });
    expect(a.ok && a.lines.map((l) => l.massMg)).toEqual([700_000, 250_000, 50_000]);
  });
  test('the nibs there are set the mass of the bowl, and the claim is not missed by a milligram', () => {
    const a = solveRecipe({
      lines: lines(plain),
      wishes: [fix('cacaoAll', 75), fix({ ingredientId: 'nibs' }, 3_200_001)],
    });
    expect(a.ok).toBe(true);
    expect(figureOf({ ingredientId: 'nibs' }, a.lines)).toBe(3_200_001);
    expect(Math.abs(a.figures.totalMg - 3_200_001 / 0.75)).toBeLessThanOrEqual(2);
    expect(a.figures.cacaoAll).toBeGreaterThanOrEqual(75);
  });
  test('a claim is never missed by a milligram, whatever the nibs weigh', () => {
    for (const nibsMg of [9_380_000, 3_333_333, 7_654_321, 1_000_001])
      for (const percent of [72, 68.5, 85]) {
        const a = solveRecipe({
          lines: lines(plain),
          wishes: [fix('cacaoAll', percent), fix({ ingredientId: 'nibs' }, nibsMg)],
        });
        expect(a.figures.cacaoAll).toBeGreaterThanOrEqual(percent);
        expect(a.figures.cacaoAll - percent).toBeLessThan(1e-4);
      }
  });
  test('the cheapest way to a fat is by hand: powder is dearer than nothing but cheaper than butter', () => {
    // Fat at least 40 % and cacao 70 %: with nibs at 54 % the least butter is found by one equation.
    const priced = lines({ nibs: 700, 'cane-sugar': 300, 'cocoa-butter': 0 }).map((l) => ({
      ...l,
      ingredient: {
        ...l.ingredient,
        pricePerKg: { nibs: 1000, 'cane-sugar': 100, 'cocoa-butter': 2000 }[l.ingredient.id]!,
      },
    }));
    const a = solveRecipe({
      lines: priced,
      wishes: [fix('cacaoAll', 70), { figure: 'fat', min: 40 }],
      towards: 'cheapest',
    });
    // n + b = 70, 0.54 n + b = 40 → n = 30/0.46
    expect(a.ok && a.lines[0]!.massMg / 10_000).toBeCloseTo(30 / 0.46, 3);
  });
  test('of two sugars the cheaper is taken', () => {
    const a = solveRecipe({
      lines: lines({ nibs: 700, 'cane-sugar': 150, 'coconut-sugar': 150 }),
      wishes: [fix('cacaoAll', 70)],
      towards: 'cheapest',
    });
    expect(a.ok && a.lines.map((l) => Math.round(l.massMg / 1000))).toEqual([700, 300, 0]);
  });
});

describe('known conflicts', () => {
  test('80 % with at most 38 % fat cannot be made from nibs at 54 % fat; the least is 43.2 %', () => {
    const a = solveRecipe({ lines: lines(plain), wishes: [fix('cacaoAll', 80), { figure: 'fat', max: 38 }] });
    if (a.ok) throw new Error('it cannot be');
    expect(a.conflicts.map((c) => c.index).sort()).toEqual([0, 1]);
    const fat = a.conflicts.find((c) => c.wish.figure === 'fat')!;
    expect(fat.possible).toBeCloseTo(43.2, 3);
    const cacao = a.conflicts.find((c) => c.wish.figure === 'cacaoAll')!;
    expect(cacao.possible).toBeCloseTo(38 / 0.54, 2);
  });
  test('wishes that have nothing to do with it are not named', () => {
    const a = solveRecipe({
      lines: lines({ ...plain, 'whole-milk-powder': 100 }),
      wishes: [
        { figure: 'milkFat', min: 1 },
        fix('massMg', 9_000_000),
        { figure: 'cacaoAll', min: 80 },
        { figure: 'fat', max: 30 },
      ],
    });
    if (a.ok) throw new Error('it cannot be');
    expect(a.conflicts.map((c) => c.index).sort()).toEqual([2, 3]);
  });
  test('too few nibs for the mass: each way out is named', () => {
    const a = solveRecipe({
      lines: lines(plain),
      wishes: [
        { figure: 'massMg', min: 9_000_000 },
        { figure: { ingredientId: 'nibs' }, max: 3_200_000 },
        { figure: 'cacaoBeans', min: 70 },
      ],
    });
    if (a.ok) throw new Error('it cannot be');
    const possible = Object.fromEntries(a.conflicts.map((c) => [c.index, c.possible!]));
    expect(possible[0]! / 1e6).toBeCloseTo(3.2 / 0.7, 4);
    expect(possible[1]! / 1e6).toBeCloseTo(6.3, 4);
    expect(possible[2]!).toBeCloseTo(320 / 9, 4);
  });
});

test('what comes back keeps every wish it says it keeps, and adds up to whole milligrams', () =>
  fc.assert(
    fc.property(
      fc.record({
        cacao: fc.integer({ min: 20, max: 90 }),
        fatMax: fc.integer({ min: 25, max: 60 }),
        sugarMax: fc.integer({ min: 5, max: 60 }),
        milkFat: fc.integer({ min: 0, max: 8 }),
        kg: fc.integer({ min: 1, max: 30 }),
      }),
      ({ cacao, fatMax, sugarMax, milkFat, kg }) => {
        const wishes: Wish[] = [
          fix('cacaoAll', cacao),
          { figure: 'fat', max: fatMax },
          { figure: 'sugar', max: sugarMax },
          { figure: 'milkFat', min: milkFat },
          fix('massMg', kg * 1e6),
        ];
        const a = solveRecipe({
          lines: lines({ nibs: 340, 'cocoa-butter': 140, 'cane-sugar': 280, 'whole-milk-powder': 240 }),
          wishes,
        });
        expect(a.lines.every((l) => Number.isInteger(l.massMg) && l.massMg >= 0)).toBe(true);
        if (!a.ok) {
          expect(a.conflicts.length).toBeGreaterThan(1);
          return;
        }
        const f = recipeFigures(a.lines);
        expect(f.cacaoAll).toBeCloseTo(cacao, 3);
        expect(f.fat).toBeLessThanOrEqual(fatMax + 1e-4);
        expect(f.sugar).toBeLessThanOrEqual(sugarMax + 1e-4);
        expect(f.milkFat).toBeGreaterThanOrEqual(milkFat - 1e-4);
        expect(Math.abs(f.totalMg - kg * 1e6)).toBeLessThanOrEqual(3);
      },
    ),
    { numRuns: 60 },
  ));

test('bad wishes are refused in words', () => {
  expect(() => solveRecipe({ lines: [], wishes: [] })).toThrow(/at least one ingredient/);
  expect(() => solveRecipe({ lines: lines(plain), wishes: [{ figure: 'fat', min: 40, max: 30 }] })).toThrow(
    /cannot both hold/,
  );
  expect(() =>
    solveRecipe({ lines: lines(plain), wishes: [{ figure: { ingredientId: 'x' }, min: 1 }] }),
  ).toThrow(/does not have/);
});
