/**
 * Whole minutes a step has been under hands so far, as it ends: at most `most`, and none where this device's clock is behind the one that
 * began it.
 *
 * @param now epoch ms on the workshop's clock
 */
export const handsOnSince = (startedAt: string, now: number, most: number): number =>
  Math.min(most, Math.max(0, Math.round((now - Date.parse(startedAt)) / 60_000)));
