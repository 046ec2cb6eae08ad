import type { IngredientVersion } from '@wunsch/contract';

type Facts = IngredientVersion['facts'];

/** One thing about an ingredient that became another. */
export interface IngredientChange {
  /** Of the composition, its part. */
  what: keyof Facts | `part.${keyof Facts['composition']}`;
  before: unknown;
  after: unknown;
}

/** What one version of an ingredient has other than the one before it, in the order of the form. */
export function changesBetween(before: Facts, after: Facts): IngredientChange[] {
  const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);
  const found = (Object.keys(after) as (keyof Facts)[]).flatMap((what): IngredientChange[] => {
    if (what === 'key') return [];
    if (what !== 'composition')
      return same(before[what], after[what]) ? [] : [{ what, before: before[what], after: after[what] }];
    const parts = Object.keys(after.composition) as (keyof Facts['composition'])[];
    return parts
      .filter((p) => before.composition[p] !== after.composition[p])
      .map((p) => ({
        what: `part.${p}` as const,
        before: before.composition[p],
        after: after.composition[p],
      }));
  });
  return found;
}
