import { requireBetween, requireNotBelow0 } from '../numerics/index.ts';
import type { Ranged } from './forecast.ts';

/** A load is doubted where it is off by so many times the half width of its range (a weight in a thousand), and by so much of the load. */
const WIDTHS = 2.5;
const LEAST = 0.008;

/**
 * Whether what a load lost is so far from what was expected of it that its weight is likelier wrong.
 *
 * @param lossShare share of its mass, 0–1
 * @param expected its 80 % range
 * @throws RangeError for a share outside 0–1 or a range that is none
 */
export function doubtsLoss(lossShare: number, { median, low, high }: Ranged): boolean {
  requireBetween(lossShare, 0, 1, 'the share a load lost');
  for (const end of [median, low, high]) requireNotBelow0(end, 'a range');
  if (!(low <= median && median <= high))
    throw new RangeError('a range goes from low over its median to high');
  const side = lossShare > median ? high - median : median - low;
  return Math.abs(lossShare - median) > Math.max(WIDTHS * side, LEAST);
}
