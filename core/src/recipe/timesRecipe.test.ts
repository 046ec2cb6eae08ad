import { STARTER_INGREDIENTS } from './shelf.ts';
import { timesRecipe } from './timesRecipe.ts';

const line = (key: string, massMg: number) => ({
  ingredient: { ...STARTER_INGREDIENTS.find((i) => i.key === key)!, id: key },
  massMg,
});
const plain = [line('nibs', 7200), line('cane-sugar', 2800)];
const both = [line('nibs', 5000), line('liquor', 1000), line('cane-sugar', 4000)];

test('by the nibs in it, whatever else is in already', () => {
  expect(timesRecipe([line('nibs', 3600)], plain)).toBe(0.5);
  expect(timesRecipe([line('nibs', 3600), line('cane-sugar', 9000)], plain)).toBe(0.5);
  // Liquor in the place of the nibs a recipe names is cacao all the same.
  expect(timesRecipe([line('nibs', 2600), line('liquor', 1000)], plain)).toBe(0.5);
});

test('where a recipe names nibs and liquor, the nibs decide though the liquor is still to come', () => {
  expect(timesRecipe([line('nibs', 2500)], both)).toBe(0.5);
  expect(timesRecipe([line('nibs', 2500), line('liquor', 1000)], both)).toBe(0.5);
  expect(timesRecipe([line('liquor', 500)], both)).toBe(0.5);
});

test('once, where nothing tells', () => {
  expect(timesRecipe([], plain)).toBe(1);
  expect(timesRecipe([line('cane-sugar', 900)], plain)).toBe(1);
  expect(timesRecipe([line('nibs', 900)], [line('cane-sugar', 900)])).toBe(1);
});
