import { requireAbove0, requireAllFinite, requireFinite } from '../numerics/index.ts';

/** Days after making at which a bar is tasted again first: sourness and astringency often come back then. */
export const FIRST_RETASTE_DAYS = 14;

/** When a bar is tasted again. */
export interface RetasteState {
  /** Epoch ms of the next tasting; null once its best-before day is past. */
  dueAt: number | null;
  isDue: boolean;
  /** Share of its shelf life that is over, 0–1 and beyond. */
  aged: number;
}

/**
 * When a bar is tasted again by its shelf life: two weeks after it was made, then at each quarter of the way to its best-before day. A
 * tasting counts for the last moment that was due before it.
 *
 * @param tastedAt epoch ms of its tastings
 * @throws RangeError for a time that is none, or a best-before day that is not after the making
 */
export function retasteState(
  { madeAt, bestBeforeAt, tastedAt }: { madeAt: number; bestBeforeAt: number; tastedAt: readonly number[] },
  now: number,
): RetasteState {
  requireFinite(madeAt, 'the time it was made');
  requireFinite(now, 'the time');
  requireAllFinite(tastedAt, 'tasting');
  const life = bestBeforeAt - madeAt;
  requireAbove0(life, 'the time from making to the best-before day');
  const moments = [
    madeAt + FIRST_RETASTE_DAYS * 86_400_000,
    ...[0.25, 0.5, 0.75].map((q) => madeAt + q * life),
  ]
    .filter((m) => m < bestBeforeAt)
    .sort((a, b) => a - b);
  const last = Math.max(-Infinity, ...tastedAt);
  const open = moments.filter((m) => m > last);
  // Of several that were missed the latest stands for all.
  const missed = open.filter((m) => m <= now).at(-1);
  const dueAt = now > bestBeforeAt ? null : (missed ?? open[0] ?? null);
  return { dueAt, isDue: dueAt !== null && dueAt <= now, aged: (now - madeAt) / life };
}
