import type { WordKey } from '../words/en.ts';

/** A page that is found by its name, or by another word for what is done there. */
export interface Place {
  path: string;
  title: WordKey;
  /** Other words for it, with commas between. */
  also: WordKey;
  /** Only who may make entries is led there. */
  makes?: true;
}

/** Every page that is not about one batch, lot, recipe or machine. */
export const PLACES: readonly Place[] = [
  { path: '/beans', title: 'station.beans', also: 'place.beans' },
  { path: '/beans?receive=1', title: 'beans.receive', also: 'place.receive', makes: true },
  { path: '/beans?show=compare', title: 'beans.tab.compare', also: 'place.lotsBeside' },
  { path: '/beans?show=samples', title: 'beans.tab.samples', also: 'place.samples' },
  { path: '/beans?show=harvest', title: 'beans.tab.harvest', also: 'place.harvest' },
  { path: '/beans?show=traps', title: 'beans.tab.traps', also: 'place.traps' },
  { path: '/beans?show=map', title: 'beans.tab.map', also: 'place.map' },
  { path: '/sort', title: 'station.sort', also: 'place.sort' },
  { path: '/roast', title: 'station.roast', also: 'place.roast' },
  { path: '/roast/compare', title: 'compare.title', also: 'place.roasts' },
  { path: '/winnow', title: 'station.winnow', also: 'place.winnow' },
  { path: '/recipe', title: 'station.recipe', also: 'place.recipe' },
  { path: '/recipe/write', title: 'recipe.book', also: 'place.recipes' },
  { path: '/recipe/ingredients', title: 'ingredients', also: 'place.ingredients' },
  { path: '/recipe/trials', title: 'trials', also: 'place.trials' },
  { path: '/grind', title: 'station.grind', also: 'place.grind' },
  { path: '/rest', title: 'rest.title', also: 'place.rest' },
  { path: '/temper', title: 'station.temper', also: 'place.temper' },
  { path: '/mould', title: 'station.mould', also: 'place.mould' },
  { path: '/taste', title: 'station.taste', also: 'place.taste' },
  { path: '/taste/batches', title: 'tasted.title', also: 'place.tasted' },
  { path: '/taste/next', title: 'next.title', also: 'place.nextTrial' },
  { path: '/taste/sessions', title: 'panel.sessions', also: 'place.sessions' },
  { path: '/plan', title: 'plan', also: 'place.plan' },
  { path: '/plan/list', title: 'plan.list', also: 'place.lists' },
  { path: '/plan/classes', title: 'classes', also: 'place.classes' },
  { path: '/ledger', title: 'stock', also: 'place.stock' },
  { path: '/ledger/count', title: 'count', also: 'place.count', makes: true },
  { path: '/ledger?sheet=deliveries', title: 'deliver.list', also: 'place.deliveries' },
  { path: '/ledger?sheet=trace', title: 'trace', also: 'place.trace' },
  { path: '/ledger?sheet=cost', title: 'costs', also: 'place.costs' },
  { path: '/ledger?sheet=yields', title: 'yields', also: 'place.yields' },
  { path: '/ledger?sheet=batches', title: 'batches', also: 'place.batches' },
  { path: '/ledger?sheet=cases', title: 'cases', also: 'place.cases' },
  { path: '/ledger/causes', title: 'causes.title', also: 'place.causes' },
  { path: '/ledger?sheet=trail', title: 'trail', also: 'place.trail' },
  { path: '/ledger?sheet=files', title: 'files', also: 'place.files' },
  { path: '/ledger/import', title: 'import', also: 'place.import', makes: true },
  { path: '/ledger/forecasts', title: 'forecasts', also: 'place.forecasts' },
  { path: '/practice', title: 'practice', also: 'place.practice' },
  { path: '/practice/palate', title: 'palate', also: 'place.palate' },
  { path: '/settings', title: 'settings', also: 'place.settings' },
];

/** A place that was found: by its own name, or by the other word that is told. */
export interface FoundPlace extends Place {
  by: string | null;
}

/** Letters without case or accents, as they are typed in a hurry. */
const plain = (text: string) => text.normalize('NFD').replace(/\p{M}/gu, '').toLocaleLowerCase();

const wordsOf = (text: string) =>
  plain(text)
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);

/** Shortest text that places are looked for by. */
const LEAST = 2;

/**
 * Places whose name, or another word for them, has a word that begins with each word typed; those found by name first.
 *
 * @param say a word of the catalogue in the reader's language
 */
export function placesFor(text: string, say: (key: WordKey) => string): FoundPlace[] {
  const typed = wordsOf(text);
  if (plain(text).trim().length < LEAST || typed.length === 0) return [];
  const fits = (name: string) => {
    const words = wordsOf(name);
    return typed.every((t) => words.some((w) => w.startsWith(t)));
  };
  const found = PLACES.flatMap((place): FoundPlace[] => {
    if (fits(say(place.title))) return [{ ...place, by: null }];
    const by = say(place.also).split(', ').find(fits);
    return by === undefined ? [] : [{ ...place, by }];
  });
  return [...found.filter((p) => p.by === null), ...found.filter((p) => p.by !== null)];
}
