import { requireWhole, seededRandom, shuffled } from '../numerics/index.ts';
import { balanceOf, blindCodes, servingOrders, type Balance } from './servingOrders.ts';

/** One glass (or plate) of somebody’s order. */
export interface PouredGlass {
  /** Index of the seat. */
  seat: number;
  /** Both from 1. */
  round: number;
  place: number;
  /** Index of the sample in it. */
  sample: number;
  code: string;
}

/** A table as it is set. */
export interface SetTable {
  glasses: PouredGlass[];
  /** Samples between two rests. */
  flights: number[];
  balance: Balance;
}

/** What is served in a forced choice, as indices of two samples: the triangle’s three, or the reference and the two beside it. */
const CHOICE_ORDERS: Readonly<Record<'triangle' | 'duo-trio', readonly (readonly [0 | 1, 0 | 1, 0 | 1])[]>> =
  {
    triangle: [
      [0, 0, 1],
      [1, 1, 0],
      [0, 1, 0],
      [1, 0, 1],
      [1, 0, 0],
      [0, 1, 1],
    ],
    'duo-trio': [
      [0, 0, 1],
      [1, 1, 0],
      [0, 1, 0],
      [1, 0, 1],
    ],
  };

/**
 * Draws who meets what in which order under which code: for each round other codes, so that nobody knows a sample again by its number.
 * The same seed sets the same table.
 *
 * @param choice the forced choice served, or null where every sample is tasted by itself
 * @throws RangeError for fewer than 2 samples (a choice needs exactly 2), or no seat or round
 */
export function setTable({
  choice,
  samples,
  seats,
  rounds,
  flight,
  seed,
}: {
  choice: 'triangle' | 'duo-trio' | null;
  samples: number;
  seats: number;
  rounds: number;
  flight: number;
  seed: number;
}): SetTable {
  requireWhole(seats, 'the number of seats', 1);
  requireWhole(rounds, 'the number of rounds', 1);
  if (choice !== null) return setChoices(choice, samples, seats, rounds, seed);
  const { orders, flights, balance } = servingOrders({ samples, assessors: seats, rounds, flight, seed });
  const codes = blindCodes(samples * rounds, seed + 1);
  const glasses = orders.flatMap((order, i) => {
    const [seat, round] = [Math.floor(i / rounds), i % rounds];
    return order.map((sample, at) => ({
      seat,
      round: round + 1,
      place: at + 1,
      sample,
      code: codes[round * samples + sample]!,
    }));
  });
  return { glasses, flights, balance };
}

/** Every arrangement of a forced choice as often as any other, more or less one, in an order of chance. */
function setChoices(
  choice: 'triangle' | 'duo-trio',
  samples: number,
  seats: number,
  rounds: number,
  seed: number,
): SetTable {
  if (samples !== 2) throw new RangeError(`a ${choice} test compares exactly two samples, not ${samples}`);
  const random = seededRandom(seed);
  const kinds = CHOICE_ORDERS[choice];
  const orders: (readonly number[])[] = [];
  while (orders.length < seats * rounds) orders.push(...shuffled(kinds, random));
  const codes = blindCodes(6 * rounds, seed + 1);
  const glasses = orders.slice(0, seats * rounds).flatMap((order, i) => {
    const [seat, round] = [Math.floor(i / rounds), i % rounds];
    return order.map((sample, at) => ({
      seat,
      round: round + 1,
      place: at + 1,
      sample,
      code: codes[(round * 2 + sample) * 3 + at]!,
    }));
  });
  return { glasses, flights: [3], balance: balanceOf(orders.slice(0, seats * rounds), 3) };
}

/**
 * Whether a forced choice was right: the odd one of a triangle’s three samples, or the one that is the first of a duo-trio’s.
 *
 * @param served the samples as they stood
 * @param chosen place of the chosen one, from 0
 * @throws RangeError for a place that was not on offer
 */
export function isRightChoice(
  choice: 'triangle' | 'duo-trio',
  served: readonly number[],
  chosen: number,
): boolean {
  if (!Number.isInteger(chosen) || chosen < (choice === 'triangle' ? 0 : 1) || chosen >= served.length)
    throw new RangeError(`place ${chosen} was not on offer`);
  const sample = served[chosen]!;
  if (choice === 'duo-trio') return sample === served[0];
  return served.filter((s) => s === sample).length === 1;
}
