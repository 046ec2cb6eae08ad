/** What two people made of the same thing, from the copy both began with. */
export interface Merged<T> {
  /** What I changed and nobody else did: safe to put onto theirs. */
  mine: Partial<T>;
  /** What both changed, and differently: somebody has to choose. */
  clashes: (keyof T)[];
}

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/** Compares my changes with those made meanwhile, field by field. */
export function mergeChanges<T extends object>(base: T, mine: T, theirs: T): Merged<T> {
  const changed = (Object.keys(mine) as (keyof T)[]).filter((k) => !same(mine[k], base[k]));
  const clashes = changed.filter((k) => !same(theirs[k], base[k]) && !same(theirs[k], mine[k]));
  const safe = changed.filter((k) => !clashes.includes(k));
  return { mine: Object.fromEntries(safe.map((k) => [k, mine[k]])) as Partial<T>, clashes };
}
