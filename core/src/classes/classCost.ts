import { requireNotBelow0, requireWhole } from '../numerics/index.ts';

/** What a class costs. Money in minor units. */
export interface ClassCostProblem {
  guests: number;
  /** What a guest pays. */
  price: number;
  /** For all guests together: base, sugar and flavours as weighed out. */
  materials: number;
  /** For each guest: moulded bars' wrapping, an apron, a drink. */
  eachGuest: number;
  /** However many come: the room, cleaning. */
  fixed: number;
  /** Hours of everybody who works for it, beforehand and on the day. */
  hours: number;
  /** For an hour. */
  labourRate: number;
}

/** What a class costs and leaves. */
export interface ClassCost {
  parts: { name: 'materials' | 'eachGuest' | 'labour' | 'fixed'; amount: number }[];
  total: number;
  /** null while nobody comes. */
  perHead: number | null;
  income: number;
  left: number;
  /** Fewest guests at which it pays for itself; null where no number does. */
  paysFrom: number | null;
}

/**
 * What a class costs by the head, what it leaves, and from how many guests on it pays for itself: those whose price less what each of them
 * uses covers what is spent however many come.
 *
 * @throws RangeError for anything below 0
 */
export function classCost(problem: ClassCostProblem): ClassCost {
  const { guests, price, materials, eachGuest, fixed, hours, labourRate } = problem;
  requireWhole(guests, 'the number of guests');
  requireNotBelow0(price, 'the price');
  requireNotBelow0(materials, 'what the materials cost');
  requireNotBelow0(eachGuest, 'what each guest costs');
  requireNotBelow0(fixed, 'what is spent however many come');
  requireNotBelow0(hours, 'the hours');
  requireNotBelow0(labourRate, 'the wage');
  const labour = hours * labourRate;
  const parts: ClassCost['parts'] = [
    { name: 'materials', amount: materials },
    { name: 'eachGuest', amount: eachGuest * guests },
    { name: 'labour', amount: labour },
    { name: 'fixed', amount: fixed },
  ];
  const total = parts.reduce((sum, p) => sum + p.amount, 0);
  const each = eachGuest + (guests > 0 ? materials / guests : 0);
  const whatever = labour + fixed;
  return {
    parts,
    total,
    perHead: guests > 0 ? total / guests : null,
    income: price * guests,
    left: price * guests - total,
    paysFrom:
      whatever === 0 && price >= each
        ? 1
        : price > each
          ? Math.max(1, Math.ceil(whatever / (price - each) - 1e-9))
          : null,
  };
}
