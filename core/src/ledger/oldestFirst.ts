import { requireWhole } from '../numerics/index.ts';

/** Pieces on a shelf. */
export interface OnShelf {
  id: string;
  count: number;
  /** Day they are best before; null where none is printed. */
  bestBefore: string | null;
  /** When they were made. */
  madeAt: string;
}

/**
 * Whether something is still good on a day: the day it is best before is the last; what has none printed keeps. Days are `2026-12-24`.
 *
 * @throws RangeError for what is no day
 */
export function keepsUntil(bestBefore: string | null | undefined, day: string): boolean {
  for (const told of [day, ...(bestBefore ? [bestBefore] : [])])
    if (!/^\d{4}-\d{2}-\d{2}$/.test(told) || Number.isNaN(Date.parse(told)))
      throw new RangeError(`"${told}" is no day like 2026-12-24`);
  return !bestBefore || bestBefore >= day;
}

/**
 * Takes so many pieces off a shelf, those that keep shortest first, then the oldest; fewer where there are not so many. What is past its best
 * before on the day it goes out stays.
 *
 * @param day the day it goes out, `2026-12-24`
 * @throws RangeError for a number that is not whole and 0 or more, and for what is no day
 */
export function oldestFirst(
  shelf: readonly OnShelf[],
  wanted: number,
  day: string,
): { id: string; count: number }[] {
  const inOrder = shelf
    .filter((s) => keepsUntil(s.bestBefore, day))
    .sort(
      (a, b) =>
        (a.bestBefore ?? '9999').localeCompare(b.bestBefore ?? '9999') ||
        a.madeAt.localeCompare(b.madeAt) ||
        a.id.localeCompare(b.id),
    );
  return drawInOrder(inOrder, wanted);
}

/**
 * Takes so much of what stands in an order, each as far as it goes: pieces, or a mass in mg; less where there is not so much.
 *
 * @throws RangeError for an amount that is not whole and 0 or more
 */
export function drawInOrder(
  inOrder: readonly Pick<OnShelf, 'id' | 'count'>[],
  wanted: number,
): { id: string; count: number }[] {
  requireWhole(wanted, 'what is taken');
  let left = wanted;
  const taken: { id: string; count: number }[] = [];
  for (const { id, count } of inOrder) {
    const part = Math.min(left, Math.max(0, count));
    if (part === 0) continue;
    taken.push({ id, count: part });
    left -= part;
  }
  return taken;
}
