/**
 * Allergens that must stand out on a label, those a chocolate maker meets first. Source: Regulation (EU) 1169/2011, Annex II; `nuts` are its tree
 * nuts, `gluten` its cereals.
 */
export const ALLERGENS = [
  'milk',
  'nuts',
  'sesame',
  'gluten',
  'soy',
  'peanuts',
  'eggs',
  'sulphites',
  'lupin',
  'mustard',
  'celery',
  'fish',
  'crustaceans',
  'molluscs',
] as const;
