import { idOf, ingredientId, SHELF } from '../../testing/views.ts';
import { linesWith } from './useIngredients.ts';

const shelf = new Map(SHELF.map((i) => [i.id, i]));
const lines = (nibFat?: number) =>
  linesWith(
    ['nibs', 'cane-sugar'].map((key) => ({ ingredientId: ingredientId(key), massMg: 1 })),
    shelf,
    nibFat,
  );

test('nibs have the fat of their lot, other things their own', () => {
  expect(lines(50)[0]!.ingredient.composition.cocoaButter).toBeCloseTo(50, 6);
  expect(lines(50)[1]!.ingredient.composition.sugar).toBeCloseTo(99.9, 6);
  expect(lines()[0]!.ingredient.composition.cocoaButter).toBeCloseTo(54, 6);
});

test('an ingredient that is no longer on the shelf is left out rather than guessed at', () =>
  expect(linesWith([{ ingredientId: idOf(7777), massMg: 5 }], shelf)).toEqual([]));

test('what it costs is what its delivery cost; an answer of an older release knows the ingredient’s own price', () => {
  const sugar = SHELF.find((i) => i.key === 'cane-sugar')!;
  const { priceNow: _, ...old } = { ...sugar, pricePerKg: 180 };
  const costs = (of: object) =>
    linesWith([{ ingredientId: sugar.id, massMg: 1 }], new Map([[sugar.id, of as typeof sugar]]))[0]!
      .ingredient.pricePerKg;
  expect(costs({ ...old, priceNow: 321 })).toBe(321);
  expect(costs(old)).toBe(180);
});
