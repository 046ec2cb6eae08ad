import { TZDate } from '@date-fns/tz';

/** A month of the books, on the calendar of a place. */
export interface MonthBounds {
  /** First instants of it and of the one after, ISO. */
  from: string;
  to: string;
  /** First days of it and of the one after, `2026-10-01`. */
  firstDay: string;
  nextDay: string;
}

/** Whether a time zone is known to this machine, e.g. `Europe/Berlin`. */
export function isTimeZone(timeZone: string): boolean {
  try {
    return new Intl.DateTimeFormat('en', { timeZone }).resolvedOptions().timeZone !== '';
  } catch {
    return false;
  }
}

/**
 * Where a month begins and ends where the workshop stands: a batch poured at half past midnight on the first belongs to the new month there,
 * whatever the clock in Greenwich shows.
 *
 * @param month e.g. `2026-10`
 * @throws RangeError for a month or a time zone that is none
 * @example monthBounds('2026-11', 'Europe/Berlin').from // '2026-10-31T23:00:00.000Z'
 */
export function monthBounds(month: string, timeZone: string): MonthBounds {
  const [, year, nth] = /^(\d{4})-(0[1-9]|1[0-2])$/.exec(month) ?? [];
  if (!year || !nth) throw new RangeError(`a month is written like 2026-10, not ${month}`);
  if (!isTimeZone(timeZone))
    throw new RangeError(`${timeZone} is no time zone; one is written like Europe/Berlin`);
  const first = (on: number) => {
    const day = new TZDate(Number(year), Number(nth) - 1 + on, 1, timeZone);
    const pad = (n: number, digits: number) => String(n).padStart(digits, '0');
    return {
      instant: new Date(day.getTime()).toISOString(),
      day: `${pad(day.getFullYear(), 4)}-${pad(day.getMonth() + 1, 2)}-01`,
    };
  };
  const [here, next] = [first(0), first(1)];
  return { from: here.instant, to: next.instant, firstDay: here.day, nextDay: next.day };
}
