import fc from 'fast-check';
import {
  adjustToCacao,
  claimPercent,
  nibComposition,
  recipeFigures,
  scaleToTotal,
  STARTER_INGREDIENTS,
  type Ingredient,
  type RecipeLine,
} from './index.ts';

const ingredient = (key: string): Ingredient => {
  const found = STARTER_INGREDIENTS.find((i) => i.key === key)!;
  return { ...found, id: key };
};
const line = (key: string, grams: number): RecipeLine => ({
  ingredient: ingredient(key),
  massMg: grams * 1000,
});

describe('figures', () => {
  test('both schools of counting', () => {
    const f = recipeFigures([line('nibs', 650), line('cocoa-butter', 50), line('cane-sugar', 300)]);
    expect(f.cacaoAll).toBeCloseTo(70, 9);
    expect(f.cacaoBeans).toBeCloseTo(65, 9);
    expect(f.fat).toBeCloseTo(0.65 * 54 + 5, 9);
    expect(f.sugar).toBeCloseTo(29.97, 9);
  });
  test('a claim is never rounded up', () =>
    expect([71.46, 69.999, 70, 69.99999999999].map(claimPercent)).toEqual([71.4, 69.9, 70, 70]));
  test('allergens come only from what is in the bowl', () => {
    expect(
      recipeFigures([line('nibs', 500), line('whole-milk-powder', 200), line('hazelnuts', 0)]).allergens,
    ).toEqual(['milk']);
  });
  test('every starter ingredient adds up to 100 g', () => {
    for (const { name, composition } of STARTER_INGREDIENTS) {
      expect([name, Object.values(composition).reduce((a, b) => a + b, 0)]).toEqual([
        name,
        expect.closeTo(100, 9),
      ]);
    }
  });
  test('fat outside what nibs can hold is refused', () => expect(() => nibComposition(12)).toThrow(/30–70/));
  test('shares add up to 100 whatever is in the bowl', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.constantFrom(...STARTER_INGREDIENTS.map((i) => i.key)),
            fc.integer({ min: 1, max: 1e7 }),
          ),
          { minLength: 1 },
        ),
        (bowl) => {
          const f = recipeFigures(bowl.map(([key, mg]) => ({ ingredient: ingredient(key), massMg: mg })));
          expect(Object.values(f.composition).reduce((a, b) => a + b, 0)).toBeCloseTo(100, 6);
        },
      ),
    );
  });
});

describe('adjusting', () => {
  const lines = [line('nibs', 650), line('cocoa-butter', 50), line('cane-sugar', 300)];
  test.each([
    [72, 'all' as const],
    [60, 'beans' as const],
    [85, 'all' as const],
  ])('meets %s %% counted as %s with the nibs there are', (percent, school) => {
    const answer = adjustToCacao({ lines, percent, school, beansMg: 9_380_000 });
    if (!answer.ok) throw new Error(answer.reason);
    const f = recipeFigures(answer.lines);
    expect(school === 'all' ? f.cacaoAll : f.cacaoBeans).toBeCloseTo(percent, 4);
    expect(answer.lines[0]!.massMg).toBe(9_380_000);
  });
  test('says when nothing can be changed', () => {
    expect(adjustToCacao({ lines: [line('nibs', 500)], percent: 70, school: 'all' })).toEqual({
      ok: false,
      reason: 'nothing-to-change',
      nearestPercent: 100,
    });
    expect(adjustToCacao({ lines: [line('cane-sugar', 500)], percent: 70, school: 'all' })).toMatchObject({
      reason: 'no-beans',
    });
  });
  test('scaling is exact to the milligram', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 5e7 }), (total) => {
        expect(scaleToTotal(lines, total).reduce((s, l) => s + l.massMg, 0)).toBe(total);
      }),
    );
  });
});
