import { allergensNamed, findAllergens, sheetAllergens } from './allergenWords.ts';
import { ALLERGENS } from './allergens.ts';

const standingOut = (text: string, allergens: readonly string[]) =>
  findAllergens(text, allergens)
    .stretches.filter((s) => s.isAllergen)
    .map((s) => s.text);

test.each([
  ['cocoa mass, sugar, whole milk powder, soya lecithin', ['milk', 'soy'], ['milk', 'soya']],
  [
    'Zucker, Kakaobutter, Vollmilchpulver, Emulgator Sojalecithine',
    ['milk', 'soy'],
    ['Vollmilchpulver', 'Sojalecithine'],
  ],
  ['sucre, beurre de cacao, lait entier en poudre, lactosérum', ['milk'], ['lait', 'lactosérum']],
  ['sugar, cocoa butter, coconut milk powder, almonds', ['nuts'], ['almonds']],
  ['cocoa butter, butter oil, coconut', ['milk'], ['butter oil']],
  ['Haselnüsse, Kokosmilchpulver, Molkenpulver', ['milk', 'nuts'], ['Haselnüsse', 'Molkenpulver']],
  ['peanuts, nutmeg, coconut', ['peanuts'], ['peanuts']],
  [
    'Weizenmehl, Gerstenmalz, Eigelb, Butter',
    ['gluten', 'eggs', 'milk'],
    ['Weizenmehl', 'Gerstenmalz', 'Eigelb', 'Butter'],
  ],
  ['noix de coco, noisettes, blé', ['nuts', 'gluten'], ['noisettes', 'blé']],
])('in %p stand out only the words for what is in it', (text, allergens, words) => {
  expect(standingOut(text, allergens)).toEqual(words);
  expect(findAllergens(text, allergens).unnamed).toEqual([]);
  // Nothing of the text is lost or said twice.
  expect(
    findAllergens(text, allergens)
      .stretches.map((s) => s.text)
      .join(''),
  ).toBe(text);
});

test('what no word names is given back, and only what is in it stands out', () => {
  expect(findAllergens('cocoa mass, lecithin', ['soy'])).toEqual({
    stretches: [{ text: 'cocoa mass, lecithin', isAllergen: false }],
    unnamed: ['soy'],
  });
  expect(standingOut('hazelnuts, milk', ['milk'])).toEqual(['milk']);
  // Milk of a plant is none, nor is the butter of a bean.
  expect(
    findAllergens('coconut milk, oat milk, cocoa butter, Mandelmilch, lait de coco', ['milk']).unnamed,
  ).toEqual(['milk']);
  expect(findAllergens('', ['milk'])).toEqual({ stretches: [], unnamed: ['milk'] });
});

test('each allergen has words in the three languages of labels', () => {
  const named: Record<string, string[]> = {
    milk: ['milk', 'Milch', 'lait'],
    nuts: ['nuts', 'Nüsse', 'noix'],
    sesame: ['sesame', 'Sesam', 'sésame'],
    gluten: ['gluten', 'Gluten', 'blé'],
    soy: ['soy', 'Soja', 'soja'],
    peanuts: ['peanuts', 'Erdnüsse', 'arachides'],
    eggs: ['eggs', 'Ei', 'œuf'],
    sulphites: ['sulphites', 'Sulfite', 'sulfites'],
    lupin: ['lupin', 'Lupine', 'lupin'],
    mustard: ['mustard', 'Senf', 'moutarde'],
    celery: ['celery', 'Sellerie', 'céleri'],
    fish: ['fish', 'Fisch', 'poisson'],
    crustaceans: ['crustaceans', 'Krebstiere', 'crustacés'],
    molluscs: ['molluscs', 'Weichtiere', 'mollusques'],
  };
  for (const allergen of ALLERGENS)
    for (const word of named[allergen]!)
      expect([word, standingOut(`sugar, ${word}.`, [allergen])]).toEqual([word, [word]]);
});

test.each([
  ['sugar, cocoa butter, whole milk powder, cocoa mass, lecithin (soya), vanilla', ['milk', 'soy']],
  [
    'Zucker, Kakaobutter, VOLLMILCHPULVER, Emulgator: Sojalecithin. Kann Spuren von Nüssen enthalten.',
    ['milk', 'soy'],
  ],
  ['cocoa mass, sugar; may contain traces of milk, nuts and gluten', []],
  ['Contains milk. Made in a kitchen that works with peanuts. Cocoa 40 % minimum.', ['milk']],
  ['cacao, sucre, lait entier en poudre. Peut contenir des noisettes.', ['milk']],
  ['cocoa butter, oat powder, lactose-free, nut free, coconut', ['gluten']],
  ['Kakaomasse, Zucker, laktosefrei, ohne Milch', []],
  // What is listed after something that is not in it is in it.
  ['Zucker, ohne Palmöl, Vollmilchpulver, frei von Gluten, Haselnüsse', ['milk', 'nuts']],
  ['sugar, made in Italy, whole milk powder, without palm oil, almonds', ['milk', 'nuts']],
  ['Zucker, kann Nüsse, Soja und Milch enthalten, Butterreinfett', ['milk']],
  ['sucre, sans gluten, lait', ['milk']],
  ['Maltitol, Kakaobutter, Haselnussmark, Süßmolkenpulver', ['milk', 'nuts']],
  ['', []],
])('%p names %j as being in it', (text, allergens) => {
  expect(allergensNamed(text)).toEqual(allergens);
});

test('a sheet tells of what is ticked, of what its ingredients name, and of milk by its kind', () => {
  const sheet = { kind: 'dark', allergens: ['sesame'], ingredients: 'sugar, hazelnuts' };
  expect(sheetAllergens(sheet)).toEqual(['nuts', 'sesame']);
  expect(sheetAllergens({ ...sheet, kind: 'white', ingredients: '' })).toEqual(['milk', 'sesame']);
  expect(sheetAllergens({ kind: null, allergens: [], ingredients: '' })).toEqual([]);
});
