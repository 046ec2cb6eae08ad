import { requireBetween, requireNotBelow0 } from '../numerics/index.ts';

/** How bars came out, as it was noted of them: each from 0 to 5. */
export interface BarsSeen {
  gloss: number;
  snap: number;
  release: number;
  bloom: boolean;
}

/** How a dip set. */
export interface DipSeen {
  minutes: number;
  gloss: 'even' | 'patchy' | 'dull';
  streaks: boolean;
}

/** Bars this good, of 5, were well tempered. */
export const GOOD_OF_5 = 4;

/** A dip that set evenly within so many minutes was tempered (trade practice: five to eight). */
export const SET_MINUTES = 7;

/**
 * Whether bars shine and break as tempered chocolate does, and have not bloomed.
 *
 * @throws RangeError for what is not from 0 to 5
 */
export function areTempered({ gloss, snap, bloom }: BarsSeen): boolean {
  requireBetween(gloss, 0, 5, 'gloss');
  requireBetween(snap, 0, 5, 'snap');
  return !bloom && gloss >= GOOD_OF_5 && snap >= GOOD_OF_5;
}

/**
 * Whether a bowl was well tempered: what its bars say counts for more than a dip, and of dips the last.
 *
 * @param bars what was noted of bars poured from it, in any order
 * @param dips in order of time
 * @returns null where nobody has looked
 * @throws RangeError for what is not from 0 to 5, and minutes below 0
 */
export function wellTempered(bars: readonly BarsSeen[], dips: readonly DipSeen[]): boolean | null {
  if (bars.length > 0) return bars.map(areTempered).every(Boolean);
  const dip = dips.at(-1);
  if (!dip) return null;
  requireNotBelow0(dip.minutes, 'minutes of a dip');
  return dip.gloss === 'even' && !dip.streaks && dip.minutes <= SET_MINUTES;
}
