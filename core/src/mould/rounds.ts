import { requireAbove0, requireNotBelow0, requireNumbers, requireWhole } from '../numerics/index.ts';

/** A moulding done in rounds: moulds are filled one by one, set in the cabinet, knocked out, wiped and filled again. Times in minutes. */
export interface RoundProblem {
  bars: number;
  /** Cavities of one mould, and how many such moulds there are. */
  cavities: number;
  moulds: number;
  /** Places of the cabinet, and those one mould takes; no limit where null. */
  places: number | null;
  placesPerMould: number;
  /** Hands at one mould: filling, tapping and wiping; and knocking out, wiping and warming it for the next time. */
  fillMinutes: number;
  turnMinutes: number;
  setMinutes: number;
  /** Minutes until moulds that are in the cabinet are set; the others are free. */
  busyUntil?: readonly number[];
  /** How long the bowl stays in its window from now; null where nobody knows. */
  bowlMinutes: number | null;
}

/** One round: so many moulds and bars, filled from and to, and out again. Minutes from the beginning. */
export interface Round {
  moulds: number;
  bars: number;
  from: number;
  to: number;
  outAt: number;
}

/** The plan of a moulding. */
export interface RoundPlan {
  rounds: Round[];
  /** When the last mould is filled, and when the last bar is out. */
  filledAt: number;
  outAt: number;
  /** Minutes the bowl has in hand when the last mould is filled; below 0 where it does not last, null where it is not known. */
  spareMinutes: number | null;
  /** Bars filled while the bowl lasts. */
  barsInTime: number;
}

/**
 * Plans the rounds of a moulding for one pair of hands: as many moulds at once as there are and the cabinet holds, each filled again as
 * soon as it is set and turned.
 *
 * @throws RangeError for numbers of bars, cavities or moulds that are not whole and above 0, times below 0, or a cabinet smaller than one
 *   mould
 * @example planRounds({ bars: 192, cavities: 5, moulds: 14, … }).rounds.length // 3
 */
export function planRounds(problem: RoundProblem): RoundPlan {
  const {
    bars,
    cavities,
    moulds,
    places,
    placesPerMould,
    fillMinutes,
    turnMinutes,
    setMinutes,
    bowlMinutes,
    busyUntil = [],
  } = problem;
  requireWhole(bars, 'the number of bars', 1);
  requireWhole(cavities, 'the number of cavities of a mould', 1);
  requireWhole(moulds, 'the number of moulds', 1);
  requireAbove0(placesPerMould, 'the places a mould takes');
  requireAbove0(fillMinutes, 'the minutes a mould takes to fill');
  requireNotBelow0(turnMinutes, 'the minutes a mould takes to turn');
  requireNotBelow0(setMinutes, 'the minutes bars set');
  if (bowlMinutes !== null) requireNotBelow0(bowlMinutes, 'the minutes the bowl lasts');
  if (places !== null) requireWhole(places, 'the places of the cabinet', 1);
  const fit = places === null ? moulds : Math.floor(places / placesPerMould + 1e-9);
  if (fit < 1) throw new RangeError(`a mould takes ${placesPerMould} places, the cabinet has ${places}`);
  const atOnce = Math.min(moulds, fit);
  const fills = Math.ceil(bars / cavities);
  const busy = [...busyUntil].sort((a, b) => a - b);
  requireNumbers(busy, 'the minutes until a mould is set');
  // Free ones first; those in the cabinet as they come out, none before now.
  const inside = Math.min(atOnce, busy.length);
  const freeAt = Array.from({ length: atOnce }, (_, i) =>
    i < atOnce - inside ? 0 : Math.max(0, busy[i - (atOnce - inside)]!),
  );
  const rounds: Round[] = [];
  let hands = 0;
  let barsInTime = 0;
  for (let fill = 0; fill < fills; fill++) {
    const mould = fill % atOnce;
    const again = fill >= atOnce - inside;
    const begin = Math.max(hands, freeAt[mould]!) + (again ? turnMinutes : 0);
    hands = begin + fillMinutes;
    freeAt[mould] = hands + setMinutes;
    const here = Math.min(cavities, bars - fill * cavities);
    if (bowlMinutes === null || hands <= bowlMinutes + 1e-9) barsInTime += here;
    if (mould === 0) rounds.push({ moulds: 0, bars: 0, from: begin, to: hands, outAt: freeAt[mould]! });
    const round = rounds.at(-1)!;
    round.moulds += 1;
    round.bars += here;
    round.to = hands;
    round.outAt = freeAt[mould]!;
  }
  const filledAt = rounds.at(-1)!.to;
  return {
    rounds,
    filledAt,
    outAt: rounds.at(-1)!.outAt,
    spareMinutes: bowlMinutes === null ? null : bowlMinutes - filledAt,
    barsInTime,
  };
}
