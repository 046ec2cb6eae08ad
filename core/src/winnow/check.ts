import { betaQuantile, requireBetween, requireNumbers, requireWhole } from '../numerics/index.ts';
import { chanceWithin } from '../sort/index.ts';
import { HUSK_LIMIT, PIECE_G } from './defaults.ts';

/** A weighed sample picked over by hand. */
export interface PickedSample {
  /** Husk found among nibs, or nib found among husk. */
  of: 'husk' | 'nib';
  /** Mass of what does not belong, g, ≥ 0. */
  foundG: number;
  /** Mass of the whole sample, g. */
  sampleG: number;
  /** How many pieces were found, where they were counted. */
  pieces?: number | null;
  /** Allowed share; 1.75 % for husk in nibs where left out. */
  limit?: number;
}

/** What a picked sample says. */
export interface CheckVerdict {
  /** Found ÷ sample, by mass. */
  share: number;
  /** g found for each g of what belongs. */
  perGram: number;
  /** Exact 95 % interval of the share. */
  low: number;
  high: number;
  limit: number;
  /** Chance that the whole is within the limit. */
  chanceWithin: number;
  verdict: 'within' | 'over' | 'open';
  /** Sample in all, g, that would settle it if the share stayed as it is; 0 when settled, null above {@link LARGEST_SAMPLE_G}. */
  sampleToSettleG: number | null;
}

/** Nobody picks over more than this, g. */
export const LARGEST_SAMPLE_G = 5000;

const SURE = 0.95;

/**
 * Judges a picked sample against its limit. Chance comes from how many pieces happened to be in the sample, so masses are
 * turned into pieces of equal mass (counted, or of the usual mass) and the interval is the exact one of
 * Clopper and Pearson for that many pieces, by beta quantiles, which also serve between whole numbers.
 *
 * @throws RangeError for a sample not above 0 g, more found than there was, or pieces found without mass
 */
export function judgeSample({ of, foundG, sampleG, pieces, limit = HUSK_LIMIT }: PickedSample): CheckVerdict {
  requireNumbers({ foundG, sampleG, pieces, limit }, 'the sample');
  requireBetween(limit, 0, 1, 'the limit');
  if (pieces != null) requireWhole(pieces, 'the number of pieces', 0);
  if (!(sampleG > 0)) throw new RangeError('the sample must weigh more than 0 g');
  if (!(foundG >= 0 && foundG <= sampleG))
    throw new RangeError(`${foundG} g cannot have been found in ${sampleG} g`);
  if (pieces && !(foundG > 0)) throw new RangeError('pieces that were found weigh something');
  const pieceG = pieces && foundG > 0 ? foundG / pieces : PIECE_G[of];
  const share = foundG / sampleG;
  const [low, high] = shareInterval(foundG / pieceG, sampleG / pieceG);
  const chance = (grams: number) => chanceWithin((share * grams) / pieceG, grams / pieceG, limit);
  const now = chance(sampleG);
  const verdict = now >= SURE ? 'within' : now <= 1 - SURE ? 'over' : 'open';
  return {
    share,
    perGram: foundG < sampleG ? foundG / (sampleG - foundG) : Number.POSITIVE_INFINITY,
    low,
    high,
    limit,
    chanceWithin: now,
    verdict,
    sampleToSettleG: verdict === 'open' ? toSettle(chance, sampleG) : 0,
  };
}

/** Clopper–Pearson for a number of pieces that need not be whole. */
function shareInterval(found: number, all: number): [number, number] {
  const tail = 0.025;
  return [
    found <= 0 ? 0 : betaQuantile(tail, found, all - found + 1),
    found >= all ? 1 : betaQuantile(1 - tail, found + 1, all - found),
  ];
}

/** Smallest sample, in steps of 5 %, at which the chance is 95 % one way. */
function toSettle(chance: (grams: number) => number, from: number): number | null {
  const settled = (grams: number) => {
    const c = chance(grams);
    return c >= SURE || c <= 1 - SURE;
  };
  for (let grams = from * 1.05; grams <= LARGEST_SAMPLE_G; grams *= 1.05)
    if (settled(grams)) return Math.ceil(grams);
  return null;
}
