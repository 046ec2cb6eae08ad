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
 * Takes so many pieces off a shelf, those that keep shortest first, then the oldest; fewer where there are not so many.
 *
 * @throws RangeError for a number that is not whole and 0 or more
 */
export function oldestFirst(shelf: readonly OnShelf[], wanted: number): { id: string; count: number }[] {
  const inOrder = [...shelf].sort(
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
