import { requireFinite } from '../numerics/index.ts';

/** What juice is drained from. */
export type Draining = 'wet beans' | 'pods';

/**
 * Juice that usually drains from fresh beans by itself in the first day, as low and high shares of the mass. Source: 100–150 l of sweatings from
 * a tonne of wet beans are the trade's usual figures, and a small heap gives less; pods are a quarter wet beans.
 */
export const USUAL_JUICE = { 'wet beans': [0.05, 0.15], pods: [0.0125, 0.0375] } as const;

/** Pulp as a share of the mass: about two fifths of fresh beans. More juice than there is pulp cannot come out. */
export const PULP = { 'wet beans': 0.4, pods: 0.1 } as const;

/** What a weight of juice says. */
export interface DrainReading {
  /** Juice as a share of what it came from, 0–1. */
  share: number;
  /** What is left to ferment, mg. */
  restMg: number;
  /** `usual`, more or less than usual, or more than there is pulp, which asks for another look at the scales. */
  verdict: 'less' | 'usual' | 'more' | 'more-than-pulp';
}

/**
 * Holds a weight of juice against what usually drains.
 *
 * @param fromMg what it drains from, mg
 * @param juiceMg the juice, mg; less than that
 * @throws RangeError for masses that cannot be
 */
export function readDraining(of: { from: Draining; fromMg: number; juiceMg: number }): DrainReading {
  const { from, fromMg, juiceMg } = of;
  requireFinite(fromMg, 'what it drains from');
  requireFinite(juiceMg, 'the juice');
  if (!(juiceMg > 0)) throw new RangeError(`a weight of juice is above nothing, not ${juiceMg} mg`);
  if (!(juiceMg < fromMg)) throw new RangeError('all of it cannot be juice: weigh the juice alone');
  const share = juiceMg / fromMg;
  const [low, high] = USUAL_JUICE[from];
  const verdict =
    share > PULP[from] ? 'more-than-pulp' : share > high ? 'more' : share < low ? 'less' : 'usual';
  return { share, restMg: fromMg - juiceMg, verdict };
}
