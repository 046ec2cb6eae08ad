import { TZDate } from '@date-fns/tz';
import { requireBetween, requireWhole } from '../numerics/index.ts';
import type { Absence, PlanRoom, WeekHours } from './room.ts';

/** Monday to Friday, half past eight to five with an hour at noon. */
export const USUAL_WEEK: WeekHours = [
  ...Array.from(
    { length: 5 },
    () =>
      [
        [510, 750],
        [810, 1020],
      ] as const,
  ),
  [],
  [],
];

/** A span of time, epoch ms. */
export type Span = readonly [number, number];

/** Midnights that have been asked for; reckoning in time zones is slow, and the same days are asked for again and again. */
const midnights = new Map<string, number>();
const MOST_KEPT = 5000;

/** Midnight of the day that holds an instant, where the workshop is, and of days after it; right over changes of the clock. */
export function dayStart(ms: number, timeZone: string, daysOn = 0): number {
  const key = `${timeZone} ${ms} ${daysOn}`;
  let found = midnights.get(key);
  if (found === undefined) {
    const at = new TZDate(ms, timeZone);
    found = new TZDate(at.getFullYear(), at.getMonth(), at.getDate() + daysOn, timeZone).getTime();
    if (midnights.size >= MOST_KEPT) midnights.clear();
    midnights.set(key, found);
  }
  return found;
}

/** The day an instant falls on where the workshop is, `2026-11-26`. */
export function dayOf(ms: number, timeZone: string): string {
  const at = new TZDate(ms, timeZone);
  const two = (n: number) => String(n).padStart(2, '0');
  return `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`;
}

/**
 * The instant, ISO, at a minute of a calendar day where the workshop is: the other way round from {@link dayOf}.
 *
 * @throws RangeError for what is no day, or a minute that is not of one
 */
export function instantOf(day: string, minute: number, timeZone: string): string {
  const [, year, month, date] = /^(\d{4})-(\d{2})-(\d{2})$/.exec(day) ?? [];
  const same = year ? Date.UTC(Number(year), Number(month) - 1, Number(date)) : NaN;
  if (Number.isNaN(same) || new Date(same).toISOString().slice(0, 10) !== day)
    throw new RangeError(`a day like 2026-11-26 is needed, not “${day}”`);
  requireBetween(minute, 0, 1440, 'the minute of a day');
  const at = new TZDate(Number(year), Number(month) - 1, Number(date), 0, minute, timeZone);
  return new Date(at.getTime()).toISOString();
}

/**
 * The first calendar day where the workshop is on which a minute does not come before an instant: for what is ready at six in the evening
 * and fetched at five that is the day after.
 *
 * @throws RangeError for a minute that is not of a day
 */
export function firstDayFor(ms: number, minute: number, timeZone: string): string {
  const day = dayOf(ms, timeZone);
  return Date.parse(instantOf(day, minute, timeZone)) >= ms
    ? day
    : dayOf(dayStart(ms, timeZone, 1), timeZone);
}

/** An instant at a minute of a day: the clock’s, so that eight is eight whatever the season. */
export function minuteOfDay(day: number, minute: number, timeZone: string): number {
  const midnight = dayStart(day, timeZone);
  // On a day of 24 hours the clock runs as minutes do.
  if (dayStart(midnight, timeZone, 1) - midnight === 86_400_000) return midnight + minute * 60_000;
  const at = new TZDate(midnight, timeZone);
  return new TZDate(at.getFullYear(), at.getMonth(), at.getDate(), 0, minute, timeZone).getTime();
}

/**
 * Working hours as spans of time over some days, holidays and absences taken out.
 *
 * @param days whole number of days from today on
 * @throws RangeError for a week that has not seven days, or hours out of order
 */
export function openSpans(
  { now, timeZone, holidays }: Pick<PlanRoom, 'now' | 'timeZone' | 'holidays'>,
  week: WeekHours,
  absences: readonly Absence[],
  days: number,
): Span[] {
  requireWhole(days, 'the number of days', 1);
  if (week.length !== 7) throw new RangeError(`a week has seven days, not ${week.length}`);
  const off = new Set(holidays);
  const from = Date.parse(now);
  const spans: Span[] = [];
  const first = (new TZDate(from, timeZone).getDay() + 6) % 7;
  for (let d = 0; d < days; d += 1) {
    const day = dayStart(from, timeZone, d);
    if (off.size > 0 && off.has(dayOf(day, timeZone))) continue;
    const weekday = (first + d) % 7;
    for (const [a, b] of week[weekday]!) {
      if (!(a >= 0 && b > a && b <= 1440))
        throw new RangeError(`hours run forward within a day; ${a} to ${b} do not`);
      spans.push([minuteOfDay(day, a, timeZone), minuteOfDay(day, b, timeZone)]);
    }
  }
  return without(
    spans,
    absences.map((a) => [Date.parse(a.from), Date.parse(a.to)]),
  );
}

/** Spans with other spans taken out. */
export function without(spans: readonly Span[], away: readonly Span[]): Span[] {
  let left = [...spans];
  for (const [a, b] of away)
    left = left.flatMap(([from, to]): Span[] => {
      if (b <= from || a >= to) return [[from, to]];
      return [...(a > from ? [[from, a] as const] : []), ...(b < to ? [[b, to] as const] : [])];
    });
  return left;
}
