import type { WordKey } from '../words/en.ts';

/** A page, or something that is begun on it, that is found by its name or by another word for what is done there. */
export interface Place {
  path: string;
  title: WordKey;
  /** Other words for it, with commas between. */
  also: WordKey;
  /** Only who may make entries is led there. */
  makes?: true;
  /** Only an owner is. */
  owns?: true;
}

/** Every page that is not about one batch, lot, recipe or machine, and what is begun there. */
export const PLACES: readonly Place[] = [
  { path: '/beans', title: 'station.beans', also: 'also.beans' },
  { path: '/beans?do=receive', title: 'beans.receive', also: 'also.receive', makes: true },
  { path: '/?do=start', title: 'batch.start', also: 'also.start', makes: true },
  { path: '/?do=remind', title: 'timer.set', also: 'also.remind', makes: true },
  { path: '/beans?show=compare', title: 'beans.tab.compare', also: 'also.lotsBeside' },
  { path: '/beans?show=samples', title: 'beans.tab.samples', also: 'also.samples' },
  { path: '/beans?show=harvest', title: 'beans.tab.harvest', also: 'also.harvest' },
  { path: '/beans?show=traps', title: 'beans.tab.traps', also: 'also.traps' },
  { path: '/beans?show=map', title: 'beans.tab.map', also: 'also.map' },
  { path: '/sort', title: 'station.sort', also: 'also.sort' },
  { path: '/roast', title: 'station.roast', also: 'also.roast' },
  { path: '/roast/compare', title: 'compare.title', also: 'also.roasts' },
  { path: '/winnow', title: 'station.winnow', also: 'also.winnow' },
  { path: '/recipe', title: 'station.recipe', also: 'also.recipe' },
  { path: '/recipe/write', title: 'recipe.book', also: 'also.recipes' },
  { path: '/recipe/ingredients', title: 'ingredients', also: 'also.ingredients' },
  { path: '/recipe/ingredients?do=add', title: 'ingredients.add', also: 'also.addIngredient', makes: true },
  {
    path: '/recipe/ingredients?do=receive',
    title: 'deliveries.receive',
    also: 'also.receiveDelivery',
    makes: true,
  },
  { path: '/recipe/trials', title: 'trials', also: 'also.trials' },
  { path: '/recipe/trials?do=begin', title: 'trials.begin', also: 'also.beginTrial', makes: true },
  { path: '/grind', title: 'station.grind', also: 'also.grind' },
  { path: '/rest', title: 'rest.title', also: 'also.rest' },
  { path: '/temper', title: 'station.temper', also: 'also.temper' },
  { path: '/mould', title: 'station.mould', also: 'also.mould' },
  { path: '/mould/fillings', title: 'fillings', also: 'also.fillings' },
  { path: '/mould/fillings?do=make', title: 'filling.make', also: 'also.makeFilling', makes: true },
  { path: '/taste', title: 'station.taste', also: 'also.taste' },
  { path: '/taste/batches', title: 'tasted.title', also: 'also.tasted' },
  { path: '/taste/next', title: 'next.title', also: 'also.nextTrial' },
  { path: '/taste/sessions', title: 'panel.sessions', also: 'also.sessions' },
  { path: '/taste/sessions/new', title: 'panel.plan', also: 'also.newSession', makes: true },
  { path: '/plan', title: 'plan', also: 'also.plan' },
  { path: '/plan?do=order', title: 'plan.new-order', also: 'also.newOrder', makes: true },
  { path: '/plan?do=what-if', title: 'plan.what-if', also: 'also.whatIf', makes: true },
  { path: '/plan/list', title: 'plan.list', also: 'also.lists' },
  { path: '/plan/classes', title: 'classes', also: 'also.classes' },
  { path: '/plan/classes?do=plan', title: 'classes.new', also: 'also.newClass', makes: true },
  { path: '/ledger', title: 'stock', also: 'also.stock' },
  { path: '/ledger/count', title: 'count', also: 'also.count', makes: true },
  { path: '/ledger?sheet=deliveries', title: 'deliver.list', also: 'also.deliveries' },
  {
    path: '/ledger?sheet=deliveries&do=deliver',
    title: 'deliver.unasked',
    also: 'also.deliver',
    makes: true,
  },
  { path: '/ledger?sheet=trace', title: 'trace', also: 'also.trace' },
  { path: '/ledger?sheet=cost', title: 'costs', also: 'also.costs' },
  { path: '/ledger?sheet=yields', title: 'yields', also: 'also.yields' },
  { path: '/ledger?sheet=batches', title: 'batches', also: 'also.batches' },
  { path: '/ledger?sheet=cases', title: 'cases', also: 'also.cases' },
  { path: '/case/new', title: 'cases.new', also: 'also.newCase', makes: true },
  { path: '/ledger/causes', title: 'causes.title', also: 'also.causes' },
  { path: '/ledger?sheet=trail', title: 'trail', also: 'also.trail' },
  { path: '/ledger?sheet=files', title: 'files', also: 'also.files' },
  { path: '/ledger/import', title: 'import', also: 'also.import', makes: true },
  { path: '/ledger/forecasts', title: 'forecasts', also: 'also.forecasts' },
  { path: '/practice', title: 'practice', also: 'also.practice' },
  { path: '/practice/palate', title: 'palate', also: 'also.palate' },
  { path: '/people/me', title: 'runs.mine', also: 'also.runs' },
  { path: '/settings', title: 'settings', also: 'also.settings' },
  { path: '/settings?do=person', title: 'person.add', also: 'also.addPerson', makes: true, owns: true },
  { path: '/settings?do=machine', title: 'machine.add', also: 'also.addMachine', makes: true, owns: true },
];

/** Whether something is begun there, rather than only looked at. */
export const isBegun = ({ path }: Place): boolean => /[?&]do=|\/new$/.test(path);

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
 * Places whose name, or another word for them, has a word that begins with each word typed.
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
  return PLACES.flatMap((place): FoundPlace[] => {
    if (fits(say(place.title))) return [{ ...place, by: null }];
    const by = say(place.also).split(', ').find(fits);
    return by === undefined ? [] : [{ ...place, by }];
  });
}
