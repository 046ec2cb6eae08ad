import { v7 } from 'uuid';
import { IngredientPut } from '@wunsch/contract';
import { STARTER_INGREDIENTS } from '@wunsch/core/recipe';
import { starterShelf } from './handlers.ts';

test.each([
  ['EUR', 1],
  ['CZK', 25],
  ['XOF', 6.56],
])('what stands on the first shelf costs in %s about what it does in euros', (currency, times) => {
  const shelf = starterShelf(v7, currency);
  expect(shelf.map((i) => i.key)).toEqual(STARTER_INGREDIENTS.map((i) => i.key));
  for (const [n, { id: _, ...one }] of shelf.entries()) {
    const usual = STARTER_INGREDIENTS[n]!.pricePerKg * times;
    const { pricePerKg } = IngredientPut.parse(one);
    expect(Math.abs(pricePerKg - usual)).toBeLessThanOrEqual(0.05 * usual);
    expect(pricePerKg).toBe(Math.round(pricePerKg));
  }
});

test('where nobody knows what a euro comes to, nothing has a price yet', () =>
  expect(starterShelf(v7, 'XAG').every((i) => i.pricePerKg === 0)).toBe(true));
