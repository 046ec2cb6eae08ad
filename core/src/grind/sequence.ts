/** What a charge leaves behind on stones, walls and bowls. */
export interface Ran {
  allergens: readonly string[];
  /** Ingredients whose flavour clings: coffee, mint, chilli. */
  strong: readonly string[];
}

/** Nothing that clings or that somebody must not eat. */
export const PLAIN: Ran = { allergens: [], strong: [] };

/** Ways to make a machine ready for the next charge, the lightest first: scraped out; purged with a charge that is set aside; washed and dried, for allergens. */
export const SET_UPS = ['wipe', 'flush', 'clean'] as const;
/** See {@link SET_UPS}. */
export type SetUpKind = (typeof SET_UPS)[number];

/** Minutes each way of making a machine ready takes. */
export const SET_UP_MINUTES: Readonly<Record<SetUpKind, number>> = { wipe: 20, flush: 40, clean: 90 };

/** Share of a charge that flushes what it left, poured in, run for a while and set aside. */
export const PURGE_SHARE = 0.03;

/** What charges alike share: between two of one family nothing need be done. */
export function familyOf({ allergens, strong }: Ran): string {
  const sorted = (of: readonly string[]) => [...of].sort().join('+');
  return allergens.length + strong.length === 0 ? 'plain' : `${sorted(allergens)}|${sorted(strong)}`;
}

/** What of one charge must not, or had better not, be in the next: allergens it does not hold itself, and flavours that cling. */
export function leftBehind(before: Ran, after: Ran): { allergens: string[]; strong: string[] } {
  return {
    allergens: before.allergens.filter((a) => !after.allergens.includes(a)),
    strong: before.strong.filter((s) => !after.strong.includes(s)),
  };
}

/** A run that was on a machine before, and what it held. */
export interface EarlierRun {
  batchCode: string | null;
  /** When it began, ISO. */
  at: string;
  allergens: readonly string[];
}

/** An allergen that may have stayed on a machine, and the last run that held it. */
export interface CarriedOver {
  allergen: string;
  batchCode: string | null;
  at: string;
}

/**
 * Allergens that runs since the last cleaning may have left and that a charge does not hold itself, each once with the last run that held
 * it, in order of name. Plain charges in between thin it out and do not count as cleaning.
 */
export function carriedOver(runs: readonly EarlierRun[], inIt: readonly string[]): CarriedOver[] {
  const last = new Map<string, CarriedOver>();
  for (const { batchCode, at, allergens } of runs)
    for (const allergen of allergens) {
      const there = last.get(allergen);
      if (!inIt.includes(allergen) && (!there || there.at < at))
        last.set(allergen, { allergen, batchCode, at });
    }
  return [...last.values()].sort((a, b) => a.allergen.localeCompare(b.allergen));
}

/**
 * What a machine wants between two charges: nothing between like ones; wiping where the next only adds to what was there (plain before
 * strong); flushing where a flavour would cling; cleaning where an allergen would.
 */
export function setUpBetween(before: Ran, after: Ran): SetUpKind | null {
  if (familyOf(before) === familyOf(after)) return null;
  const left = leftBehind(before, after);
  if (left.allergens.length > 0) return 'clean';
  return left.strong.length > 0 ? 'flush' : 'wipe';
}

/** Runs in an order that needs the least cleaning: fewest allergens first, then plain before strong; given order between equals. */
export function plainToStrong<R extends Ran>(runs: readonly R[]): R[] {
  return [...runs].sort(
    (a, b) => a.allergens.length - b.allergens.length || a.strong.length - b.strong.length,
  );
}
