import type { Material } from '../ledger/index.ts';

/** Materials in German, as they stand within a line. */
const MATERIALS_DE: Readonly<Record<Material, string>> = {
  pods: 'Früchte',
  'wet beans': 'Nasse Bohnen',
  juice: 'Fruchtsaft',
  'dry beans': 'Trockene Bohnen',
  'sorted beans': 'Ausgelesene Bohnen',
  'roasted beans': 'Geröstete Bohnen',
  nibs: 'Nibs',
  liquor: 'Kakaomasse',
  charge: 'Füllung',
  chocolate: 'Schokolade',
  'tempered chocolate': 'Temperierte Schokolade',
  couverture: 'Kuvertüre',
  'cocoa butter': 'Kakaobutter',
  'cocoa powder': 'Kakaopulver',
  bars: 'Tafeln',
  shells: 'Hüllen',
  filling: 'Füllmasse',
  blocks: 'Blöcke',
  rework: 'Rest zur Wiederverwendung',
  rejects: 'Ausschuss',
  husk: 'Schalen',
  fines: 'Feines',
  ingredient: 'Zutat',
  packaging: 'Verpackung',
};

/** How things left, and why a count did not find them, in German. */
const ENDS_DE: Readonly<Record<string, string>> = {
  delivered: 'ausgeliefert',
  sold: 'verkauft',
  gift: 'verschenkt',
  sample: 'als Muster',
  eaten: 'hier gegessen',
  waste: 'weggeworfen',
  broken: 'zerbrochen',
  tea: 'zu Tee',
  mulch: 'zu Mulch',
  brewer: 'zur Brauerei',
  'boiled off': 'verdampft',
  unexplained: 'ungeklärt',
  mislaid: 'verlegt',
  stolen: 'gestohlen',
  miscounted: 'verzählt',
  other: 'anderes',
};

/** A material as it stands on paper. */
export const materialOnPaper = (material: Material, language: 'en' | 'de'): string =>
  language === 'de' ? MATERIALS_DE[material] : material;

/** How something left or was lost as it stands on paper; a word of the maker's own stays as it is. */
export const endOnPaper = (word: string, language: 'en' | 'de'): string =>
  language === 'de' ? (ENDS_DE[word] ?? word) : word;
