import type { Ingredient } from '../recipe/index.ts';
import type { LabelLanguage } from './design.ts';

/** What an additive does in chocolate, as its label must say before its name (Regulation (EU) 1169/2011, Annex VII, part C). */
export type AdditiveClass = 'sweetener' | 'emulsifier';

/** Words of a label in one language. Names in braces are filled in. */
interface LabelWords {
  ingredients: string;
  contains: string;
  traces: string;
  with: string;
  /** Foods in the case that `with` asks for; those not here are named in brackets. */
  withFood: Record<string, string> | null;
  and: string;
  cacao: string;
  blend: string;
  bestBefore: string;
  batch: string;
  storage: string;
  storageFilled: string;
  madeBy: string;
  nutrition: string;
  energy: string;
  nutrients: Record<
    'fat' | 'saturates' | 'carbohydrate' | 'sugars' | 'polyols' | 'fibre' | 'protein' | 'salt',
    string
  >;
  /** What additives do: the word by which a name says so itself, and what stands before one that does not. */
  additive: Record<AdditiveClass, { word: string; before: string }>;
  /** Beside the name: one sweetener, or several; alone, or with sugars. */
  sweetened: Record<'one' | 'many' | 'sugarAndOne' | 'sugarAndMany', string>;
  laxative: string;
  sold: Record<string, string>;
  filled: string;
  pieces: string;
  allergens: Record<string, string>;
  ingredient: Record<string, string>;
}

/** Labels' words; written apart from the screens', because a label's language is its market's and not its maker's. */
export const LABEL_WORDS: Readonly<Record<LabelLanguage, LabelWords>> = {
  en: {
    ingredients: 'Ingredients:',
    contains: 'Contains',
    traces: 'May contain',
    with: '{name} with {foods}',
    withFood: null,
    and: 'and',
    cacao: 'Cocoa solids {percent} minimum',
    blend: 'Blend of origins',
    bestBefore: 'Best before {day}',
    batch: 'Lot {code}',
    storage: 'Keep cool ({range}), dry and dark.',
    storageFilled: 'Keep cool ({range}), dry and dark; eat soon after opening.',
    madeBy: 'Made by {name}, {address}',
    nutrition: 'Nutrition per 100 g',
    energy: 'energy',
    nutrients: {
      fat: 'fat',
      saturates: 'of which saturates',
      carbohydrate: 'carbohydrate',
      sugars: 'of which sugars',
      polyols: 'of which polyols',
      fibre: 'fibre',
      protein: 'protein',
      salt: 'salt',
    },
    additive: {
      sweetener: { word: 'sweetener', before: 'sweetener: ' },
      emulsifier: { word: 'emulsifier', before: 'emulsifier: ' },
    },
    sweetened: {
      one: 'with sweetener',
      many: 'with sweeteners',
      sugarAndOne: 'with sugar and sweetener',
      sugarAndMany: 'with sugar and sweeteners',
    },
    laxative: 'Excessive consumption may produce laxative effects.',
    sold: {
      chocolate: 'Dark chocolate',
      'milk chocolate': 'Milk chocolate',
      'white chocolate': 'White chocolate',
      'bittersweet chocolate': 'Bittersweet chocolate',
      'sweet chocolate': 'Sweet chocolate',
      compound: 'Cocoa confectionery',
    },
    filled: 'Filled {name}',
    pieces: 'Chocolates',
    allergens: {
      milk: 'milk',
      gluten: 'cereals containing gluten',
      nuts: 'nuts',
      soy: 'soya',
      sesame: 'sesame',
      peanuts: 'peanuts',
      eggs: 'eggs',
      sulphites: 'sulphites',
      lupin: 'lupin',
      mustard: 'mustard',
      celery: 'celery',
      fish: 'fish',
      crustaceans: 'crustaceans',
      molluscs: 'molluscs',
    },
    ingredient: {
      Nibs: 'cocoa nibs',
      'Cocoa liquor': 'cocoa mass',
    },
  },
  de: {
    ingredients: 'Zutaten:',
    contains: 'Enthält',
    traces: 'Kann Spuren enthalten von',
    with: '{name} mit {foods}',
    withFood: {
      'Oat powder': 'Hafer',
      'Coconut milk powder': 'Kokosmilch',
      'Ground vanilla': 'Vanille',
      'Ground cinnamon': 'Zimt',
      'Ground chilli': 'Chili',
      'Ground coffee': 'Kaffee',
      'Sea salt': 'Meersalz',
      'Roasted hazelnuts': 'gerösteten Haselnüssen',
      'Roasted almonds': 'gerösteten Mandeln',
      'Sesame paste': 'Sesam',
      'Freeze-dried raspberry': 'Himbeeren',
      Honey: 'Honig',
    },
    and: 'und',
    cacao: 'Kakao: {percent} mindestens',
    blend: 'Mischung mehrerer Herkünfte',
    bestBefore: 'Mindestens haltbar bis {day}',
    batch: 'Los {code}',
    storage: 'Kühl ({range}), trocken und dunkel lagern.',
    storageFilled: 'Kühl ({range}), trocken und dunkel lagern; nach dem Öffnen bald verbrauchen.',
    madeBy: 'Hergestellt von {name}, {address}',
    nutrition: 'Nährwerte je 100 g',
    energy: 'Energie',
    nutrients: {
      fat: 'Fett',
      saturates: 'davon gesättigte Fettsäuren',
      carbohydrate: 'Kohlenhydrate',
      sugars: 'davon Zucker',
      polyols: 'davon mehrwertige Alkohole',
      fibre: 'Ballaststoffe',
      protein: 'Eiweiß',
      salt: 'Salz',
    },
    additive: {
      sweetener: { word: 'Süßungsmittel', before: 'Süßungsmittel ' },
      emulsifier: { word: 'Emulgator', before: 'Emulgator ' },
    },
    sweetened: {
      one: 'mit Süßungsmittel',
      many: 'mit Süßungsmitteln',
      sugarAndOne: 'mit Zucker und Süßungsmittel',
      sugarAndMany: 'mit Zucker und Süßungsmitteln',
    },
    laxative: 'Kann bei übermäßigem Verzehr abführend wirken.',
    sold: {
      chocolate: 'Dunkle Schokolade',
      'milk chocolate': 'Milchschokolade',
      'white chocolate': 'Weiße Schokolade',
      'bittersweet chocolate': 'Zartbitterschokolade',
      'sweet chocolate': 'Süße Schokolade',
      compound: 'Kakaohaltige Süßware',
    },
    filled: 'Gefüllte {name}',
    pieces: 'Pralinen',
    allergens: {
      milk: 'Milch',
      gluten: 'glutenhaltiges Getreide',
      nuts: 'Schalenfrüchte',
      soy: 'Soja',
      sesame: 'Sesam',
      peanuts: 'Erdnüsse',
      eggs: 'Eier',
      sulphites: 'Sulfite',
      lupin: 'Lupinen',
      mustard: 'Senf',
      celery: 'Sellerie',
      fish: 'Fisch',
      crustaceans: 'Krebstiere',
      molluscs: 'Weichtiere',
    },
    ingredient: {
      Nibs: 'Kakaokernbruch',
      'Cocoa liquor': 'Kakaomasse',
      'Cane sugar': 'Rohrzucker',
      'Icing sugar with starch': 'Puderzucker (Zucker, Stärke)',
      'Coconut sugar': 'Kokosblütenzucker',
      'Soft brown sugar': 'brauner Zucker',
      Erythritol: 'Süßungsmittel Erythrit',
      'Cocoa butter': 'Kakaobutter',
      'Cocoa powder': 'Kakaopulver',
      'Whole milk powder': 'Vollmilchpulver',
      'Skimmed milk powder': 'Magermilchpulver',
      'Butter oil': 'Butterreinfett (Milch)',
      'Fresh milk': 'Milch',
      Butter: 'Butter (Milch)',
      'Invert sugar syrup': 'Invertzuckersirup',
      'Oat powder': 'Haferpulver',
      'Coconut milk powder': 'Kokosmilchpulver',
      'Coconut fat': 'Kokosfett',
      'Sunflower lecithin': 'Emulgator Sonnenblumenlecithin',
      'Ground vanilla': 'gemahlene Vanille',
      'Ground cinnamon': 'gemahlener Zimt',
      'Ground chilli': 'gemahlener Chili',
      'Ground coffee': 'gemahlener Kaffee',
      'Sea salt': 'Meersalz',
      'Roasted hazelnuts': 'geröstete Haselnüsse',
      'Roasted almonds': 'geröstete Mandeln',
      'Sesame paste': 'Sesampaste',
      'Freeze-dried raspberry': 'gefriergetrocknete Himbeeren',
      Honey: 'Honig',
      Cream: 'Sahne (Milch)',
    },
  },
  fr: {
    ingredients: 'Ingrédients :',
    contains: 'Contient',
    traces: 'Peut contenir',
    with: '{name} avec {foods}',
    withFood: null,
    and: 'et',
    cacao: 'Cacao : {percent} minimum',
    blend: 'Assemblage d’origines',
    bestBefore: 'À consommer de préférence avant le {day}',
    batch: 'Lot {code}',
    storage: 'À conserver au frais ({range}), au sec et à l’abri de la lumière.',
    storageFilled:
      'À conserver au frais ({range}), au sec et à l’abri de la lumière ; à consommer peu après ouverture.',
    madeBy: 'Fabriqué par {name}, {address}',
    nutrition: 'Valeurs nutritionnelles pour 100 g',
    energy: 'énergie',
    nutrients: {
      fat: 'matières grasses',
      saturates: 'dont acides gras saturés',
      carbohydrate: 'glucides',
      sugars: 'dont sucres',
      polyols: 'dont polyols',
      fibre: 'fibres alimentaires',
      protein: 'protéines',
      salt: 'sel',
    },
    additive: {
      sweetener: { word: 'édulcorant', before: 'édulcorant ' },
      emulsifier: { word: 'émulsifiant', before: 'émulsifiant ' },
    },
    sweetened: {
      one: 'avec édulcorant',
      many: 'avec édulcorants',
      sugarAndOne: 'avec sucre et édulcorant',
      sugarAndMany: 'avec sucre et édulcorants',
    },
    laxative: 'Une consommation excessive peut avoir des effets laxatifs.',
    sold: {
      chocolate: 'Chocolat noir',
      'milk chocolate': 'Chocolat au lait',
      'white chocolate': 'Chocolat blanc',
      'bittersweet chocolate': 'Chocolat amer',
      'sweet chocolate': 'Chocolat doux',
      compound: 'Confiserie au cacao',
    },
    filled: '{name} fourré',
    pieces: 'Bonbons de chocolat',
    allergens: {
      milk: 'lait',
      gluten: 'céréales contenant du gluten',
      nuts: 'fruits à coque',
      soy: 'soja',
      sesame: 'sésame',
      peanuts: 'arachides',
      eggs: 'œufs',
      sulphites: 'sulfites',
      lupin: 'lupin',
      mustard: 'moutarde',
      celery: 'céleri',
      fish: 'poissons',
      crustaceans: 'crustacés',
      molluscs: 'mollusques',
    },
    ingredient: {
      Nibs: 'éclats de fèves de cacao',
      'Cocoa liquor': 'pâte de cacao',
      'Cane sugar': 'sucre de canne',
      'Icing sugar with starch': 'sucre glace (sucre, amidon)',
      'Coconut sugar': 'sucre de fleur de coco',
      'Soft brown sugar': 'cassonade',
      Erythritol: 'édulcorant érythritol',
      'Cocoa butter': 'beurre de cacao',
      'Cocoa powder': 'cacao en poudre',
      'Whole milk powder': 'lait entier en poudre',
      'Skimmed milk powder': 'lait écrémé en poudre',
      'Butter oil': 'beurre concentré (lait)',
      'Fresh milk': 'lait',
      Butter: 'beurre (lait)',
      'Invert sugar syrup': 'sirop de sucre inverti',
      'Oat powder': 'avoine en poudre',
      'Coconut milk powder': 'lait de coco en poudre',
      'Coconut fat': 'graisse de coco',
      'Sunflower lecithin': 'émulsifiant lécithine de tournesol',
      'Ground vanilla': 'vanille moulue',
      'Ground cinnamon': 'cannelle moulue',
      'Ground chilli': 'piment moulu',
      'Ground coffee': 'café moulu',
      'Sea salt': 'sel marin',
      'Roasted hazelnuts': 'noisettes grillées',
      'Roasted almonds': 'amandes grillées',
      'Sesame paste': 'purée de sésame',
      'Freeze-dried raspberry': 'framboises lyophilisées',
      Honey: 'miel',
      Cream: 'crème (lait)',
    },
  },
};

/**
 * An ingredient's name on a label, and whether the language knows it; what a maker has named stays as typed.
 *
 * @param own what the maker calls it on labels, by language
 * @example ingredientName('Elderflower', 'de', { de: 'Holunderblüten' }) // { text: 'Holunderblüten', known: true }
 */
export function ingredientName(
  name: string,
  language: LabelLanguage,
  own: Ingredient['labelNames'] = {},
): { text: string; known: boolean } {
  const given = own[language]?.trim();
  if (given) return { text: given, known: true };
  const there = LABEL_WORDS[language].ingredient[name];
  if (there !== undefined) return { text: there, known: true };
  const starter = LABEL_WORDS.de.ingredient[name] !== undefined;
  // English is the starter ingredients' own language.
  if (language === 'en') return { text: starter ? name.toLowerCase() : name, known: true };
  return { text: name, known: false };
}

/** A calendar day (ISO) as labels of a language write it. */
export function labelDay(day: string, language: LabelLanguage): string {
  const tag = { en: 'en-GB', de: 'de-DE', fr: 'fr-FR' }[language];
  const look: Intl.DateTimeFormatOptions =
    language === 'en'
      ? { day: 'numeric', month: 'short', year: 'numeric' }
      : { day: '2-digit', month: '2-digit', year: 'numeric' };
  return new Intl.DateTimeFormat(tag, { ...look, timeZone: 'UTC' }).format(new Date(`${day}T00:00:00Z`));
}
