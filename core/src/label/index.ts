export * from './additives.ts';
export * from './allergens.ts';
export { allergensNamed, sheetAllergens, type AllergenSheet } from './allergenWords.ts';
export * from './bar.ts';
export * from './content.ts';
export * from './design.ts';
export * from './nutritionForms.ts';
export * from './typeRules.ts';
export * from './words.ts';
