/** Where a card of a session was written. */
export interface CardSeat {
  seatId: string;
  round: number;
  place: number;
}

/**
 * The first card of each seat, round and place: what is reckoned with. Who goes back to a glass adds another, which only shows that they did.
 *
 * @param cards of one session, in the order they came
 */
export function firstImpressions<C extends CardSeat>(cards: readonly C[]): C[] {
  const seen = new Set<string>();
  return cards.filter(({ seatId, round, place }) => {
    const key = `${seatId} ${round} ${place}`;
    return seen.has(key) ? false : seen.add(key);
  });
}
