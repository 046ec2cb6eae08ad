import { normalQuantile } from './distributions.ts';
import { seededRandom, shuffled } from './random.ts';
import { requireWhole } from './require.ts';

/**
 * Standard normal draws of a few members, spread evenly over some dimensions and the same each time: a Latin hypercube (McKay, Beckman
 * & Conover 1979). In each dimension the members stand at the middles of equal shares of the normal distribution, in an order of
 * their own. For ranges from a model that is run for each member, where few must stand for many.
 *
 * @returns one list of `dimensions` values a member
 * @throws RangeError for counts that are no whole numbers above 0
 * @example evenNormals(2, 1) // −0.674 and 0.674, in one order or the other
 */
export function evenNormals(members: number, dimensions: number): number[][] {
  requireWhole(members, 'the number of members', 1);
  requireWhole(dimensions, 'the number of dimensions', 1);
  const random = seededRandom(SEED);
  const places = Array.from({ length: members }, (_, i) => normalQuantile((i + 0.5) / members));
  const columns = Array.from({ length: dimensions }, () => shuffled(places, random));
  return Array.from({ length: members }, (_, i) => columns.map((column) => column[i]!));
}

/** One order for all; any other does as well. */
const SEED = 1979;
