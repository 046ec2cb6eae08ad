import { batchView, ingredientId, idOf, movement, SHELF, step } from '../../testing/views.ts';
import { bowlLines, linesWith } from './useIngredients.ts';

const shelf = new Map(SHELF.map((i) => [i.id, i]));
const recipe = step('recipe', { id: idOf(21), status: 'closed' });
const grind = step('grind', { id: idOf(22) });
const line = (stepId: string, direction: 'in' | 'out', massMg: number, more: object = {}) =>
  movement(direction, massMg, { stepId, ...more });
const named = (movements: ReturnType<typeof line>[]) =>
  bowlLines(batchView({ steps: [recipe, grind], movements } as never), shelf).map((l) => [
    SHELF.find((i) => i.id === l.ingredient.id)!.key,
    l.massMg,
  ]);

const nibs = () => line(recipe.id, 'in', 7_000_000, { material: 'nibs', parcelId: idOf(31) });
const sugar = () => line(recipe.id, 'in', 3_000_000, { ingredientId: ingredientId('cane-sugar') });

test('what was weighed in is what is in the bowl: nibs of the lot, and ingredients', () =>
  expect(named([nibs(), sugar()])).toEqual([
    ['nibs', 7_000_000],
    ['cane-sugar', 3_000_000],
  ]));

test('the charge that goes from bowl to grinder is not counted twice; what joins in the grinder is', () =>
  expect(
    named([
      nibs(),
      sugar(),
      line(recipe.id, 'out', 10_000_000, { material: 'charge', parcelId: idOf(40) }),
      line(grind.id, 'in', 10_000_000, { material: 'charge', parcelId: idOf(40) }),
      line(grind.id, 'in', 150_000, { ingredientId: ingredientId('cocoa-butter') }),
    ]),
  ).toEqual([
    ['nibs', 7_000_000],
    ['cane-sugar', 3_000_000],
    ['cocoa-butter', 150_000],
  ]));

test('a weight that was corrected counts once, as corrected', () =>
  expect(
    named([
      nibs(),
      { ...sugar(), inForce: false },
      line(recipe.id, 'in', 2_800_000, { ingredientId: ingredientId('cane-sugar') }),
    ]),
  ).toEqual([
    ['nibs', 7_000_000],
    ['cane-sugar', 2_800_000],
  ]));

test('bought liquor stands beside nibs, and is not taken for them', () =>
  expect(named([nibs(), line(recipe.id, 'in', 500_000, { material: 'liquor', parcelId: idOf(33) })])).toEqual(
    [
      ['nibs', 7_000_000],
      ['liquor', 500_000],
    ],
  ));

test('nibs have the fat of their lot, other things their own', () => {
  const lines = bowlLines(
    batchView({
      steps: [recipe],
      movements: [nibs(), sugar()],
      lot: { ...batchView().lot, nibFat: 50 },
    } as never),
    shelf,
  );
  expect(lines[0]!.ingredient.composition.cocoaButter).toBeCloseTo(50, 6);
  expect(lines[1]!.ingredient.composition.sugar).toBeCloseTo(99.9, 6);
  const without = linesWith([{ ingredientId: ingredientId('nibs'), massMg: 1 }], shelf);
  expect(without[0]!.ingredient.composition.cocoaButter).toBeCloseTo(54, 6);
});

test('an ingredient that is no longer on the shelf is left out rather than guessed at', () =>
  expect(linesWith([{ ingredientId: idOf(7777), massMg: 5 }], shelf)).toEqual([]));
