import type { Station } from '../ledger/index.ts';
import type { PlanRoom, Ran, SetUp } from './room.ts';

/** Where machines are made ready between unlike charges: a bowl is washed as it is used. */
export const SET_UP_STATION: Station = 'grind';

/** Minutes each way of making a machine ready takes. */
export const SET_UP_MINUTES: Readonly<Record<SetUp['kind'], number>> = { wipe: 20, flush: 40, clean: 90 };

/** Share of a charge that flushes what it left, poured in, run for a while and set aside. */
export const PURGE_SHARE = 0.03;

/** Nothing that clings or that somebody must not eat. */
export const PLAIN: Ran = { allergens: [], strong: [] };

/** What charges alike share: between two of one family nothing need be done. */
export function familyOf({ allergens, strong }: Ran): string {
  const sorted = (of: readonly string[]) => [...of].sort().join('+');
  return allergens.length + strong.length === 0 ? 'plain' : `${sorted(allergens)}|${sorted(strong)}`;
}

/**
 * What a machine wants between two charges: nothing between like ones; wiping where the next only adds to what was there (plain before
 * strong); flushing where a flavour would cling; cleaning where an allergen would.
 */
export function setUpBetween(before: Ran, after: Ran): SetUp['kind'] | null {
  if (familyOf(before) === familyOf(after)) return null;
  if (before.allergens.some((a) => !after.allergens.includes(a))) return 'clean';
  return before.strong.some((s) => !after.strong.includes(s)) ? 'flush' : 'wipe';
}

/** What is made here and ran on a machine before, by family. */
export function familiesOf({ recipes, machines }: Pick<PlanRoom, 'recipes' | 'machines'>): Map<string, Ran> {
  const all: Ran[] = [
    PLAIN,
    ...recipes.map((r) => ({ allergens: r.allergens, strong: r.strong ?? [] })),
    ...machines.flatMap((m) => m.ranLast ?? []),
  ];
  return new Map(all.map((r) => [familyOf(r), r]));
}

/** Minutes from family to family. */
export function setUpTable(families: ReadonlyMap<string, Ran>): Record<string, Record<string, number>> {
  return Object.fromEntries(
    [...families].map(([from, before]) => [
      from,
      Object.fromEntries(
        [...families].flatMap(([to, after]) => {
          const kind = setUpBetween(before, after);
          return kind ? [[to, SET_UP_MINUTES[kind]]] : [];
        }),
      ),
    ]),
  );
}
