import { requireFinite, requireNotBelow0 } from '../numerics/index.ts';

/** Something that is used up, and how fast. */
export interface Use {
  /** What is on hand, mg or pieces. */
  onHand: number;
  /** What was used in the time looked at, in the same unit. */
  used: number;
  /** How long that was, days. */
  days: number;
}

/**
 * Days until something runs out at the pace it was used; null where none was used. Where nothing is on hand it has run out: 0.
 *
 * @throws RangeError for amounts below 0, or a time that is not above 0
 */
export function runsOut({ onHand, used, days }: Use): number | null {
  requireNotBelow0(onHand, 'what is on hand');
  requireNotBelow0(used, 'what was used');
  requireFinite(days, 'the time looked at');
  if (!(days > 0)) throw new RangeError('a pace needs a time longer than 0 days');
  return used > 0 ? (onHand * days) / used : null;
}
