import type { ChocolateType } from '../temper/defaults.ts';

/** Months a bar keeps by kind; the workshop sets its own. */
export const KEEPING_MONTHS: Readonly<Record<ChocolateType, number>> = {
  dark: 18,
  milk: 12,
  white: 10,
  plant: 12,
  fruit: 10,
};

/**
 * Best-before date: `months` after the day of moulding. A day the month does not have becomes its last
 * (31 Aug + 6 months is 28 or 29 Feb). Dates are ISO `YYYY-MM-DD`.
 *
 * @throws RangeError for a text that is not a date or months that are not whole and ≥ 0
 */
export function bestBefore(madeOn: string, months: number): string {
  const match = /^(\d{4})-(\d{2})-(\d{2})$/.exec(madeOn);
  if (!match) throw new RangeError(`"${madeOn}" is not a date like 2026-10-02`);
  if (!Number.isInteger(months) || months < 0) throw new RangeError('months must be a whole number');
  const [year, month, day] = [Number(match[1]), Number(match[2]), Number(match[3])];
  const known = new Date(Date.UTC(year, month - 1, day));
  if (known.getUTCMonth() !== month - 1 || known.getUTCDate() !== day)
    throw new RangeError(`"${madeOn}" is no day of the calendar`);
  const lastDay = new Date(Date.UTC(year, month + months, 0)).getUTCDate();
  return new Date(Date.UTC(year, month - 1 + months, Math.min(day, lastDay))).toISOString().slice(0, 10);
}
