import { requireFinite } from '../numerics/index.ts';

/** A counted parcel: what is left of it, in mass and in pieces. */
export interface Counted {
  remainingMg: number;
  remainingCount: number;
}

/** What is taken from a counted parcel. */
export interface TakenPieces {
  massMg: number;
  count: number;
}

/** How far a weighed mass may be from whole pieces of the mean mass, in pieces, before the number must be told. */
const NEAR = 0.25;

/**
 * What leaves a counted parcel when a mass, a number of pieces, both or neither (all there is) is named. Pieces without a
 * mass weigh their share of what is left, the last ones taking the rest, so that nothing remains of none.
 *
 * @throws RangeError where nothing whole can be told from the mass alone, or more is asked for than there is
 */
export function takePieces(
  from: Counted,
  asked: { massMg: number | null; count: number | null },
): TakenPieces {
  const { remainingMg, remainingCount } = from;
  requireFinite(remainingMg, 'the mass that is left');
  requireFinite(remainingCount, 'the number of pieces that are left');
  if (!(remainingMg > 0) || !(remainingCount > 0)) throw new RangeError('nothing is left of these pieces');
  if (asked.count !== null && (!Number.isInteger(asked.count) || asked.count <= 0))
    throw new RangeError('the number of pieces must be a whole number above 0');
  if (asked.count !== null && asked.count > remainingCount)
    throw new RangeError(`only ${remainingCount} are there, ${asked.count} are asked for`);
  if (asked.massMg === null && asked.count === null) return { massMg: remainingMg, count: remainingCount };
  const each = remainingMg / remainingCount;
  if (asked.massMg === null) {
    const count = asked.count!;
    return { count, massMg: count === remainingCount ? remainingMg : Math.max(1, Math.round(each * count)) };
  }
  if (asked.massMg > remainingMg) throw new RangeError('more is asked for than there is');
  if (asked.count !== null) {
    if (asked.count === remainingCount && asked.massMg < remainingMg)
      throw new RangeError('all pieces are taken, so all of their mass goes with them');
    if (asked.count < remainingCount && asked.massMg === remainingMg)
      throw new RangeError('all of the mass is taken, so all pieces go with it');
    return { massMg: asked.massMg, count: asked.count };
  }
  if (asked.massMg === remainingMg) return { massMg: remainingMg, count: remainingCount };
  const pieces = asked.massMg / each;
  const count = Math.round(pieces);
  if (count === 0 || count === remainingCount || Math.abs(pieces - count) > NEAR)
    throw new RangeError('say how many pieces this is');
  return { massMg: asked.massMg, count };
}
