/**
 * Whole minutes a step has been under hands so far, as it ends: at most `most`, and none where this device's clock is behind the one that
 * began it.
 *
 * @param now epoch ms on the workshop's clock
 */
export const handsOnSince = (startedAt: string, now: number, most: number): number =>
  Math.min(most, Math.max(0, Math.round((now - Date.parse(startedAt)) / 60_000)));

/** Longest that hands stay at one step, min: one that was open for longer was left lying, mostly over night. */
const LONGEST_AT_HAND = 300;

/** What is proposed for a step that was left lying, min. */
const USUAL_AT_HAND = 60;

/**
 * Whole minutes proposed for a step at which hands stand all the while, as it ends: at least one, and the usual ones where it was left lying.
 *
 * @param now epoch ms on the workshop's clock
 */
export function handsThroughout(startedAt: string, now: number): number {
  const open = Math.max(1, handsOnSince(startedAt, now, Infinity));
  return open > LONGEST_AT_HAND ? USUAL_AT_HAND : open;
}
