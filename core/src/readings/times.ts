import { TZDate } from '@date-fns/tz';
import { readNumber } from '../quantity/number.ts';
import { figuresOf, readDay } from '../quantity/index.ts';

/** What plain numbers in a column of times may count. */
export const TIME_UNITS = ['ms', 's', 'min', 'h'] as const;

/** One of {@link TIME_UNITS}. */
export type TimeUnit = (typeof TIME_UNITS)[number];

/** Seconds of each. */
export const SECONDS_OF: Readonly<Record<TimeUnit, number>> = { ms: 0.001, s: 1, min: 60, h: 3600 };

/** A time as a cell writes it. */
export type CellTime =
  /** Seconds since the epoch; `isLocal` where no zone was written, and they are those of a clock on the wall. */
  | { kind: 'instant'; seconds: number; isLocal: boolean }
  /** Seconds from the start. */
  | { kind: 'elapsed'; seconds: number }
  /** h:mm:ss, of a clock or since the start; `parts` tells h:mm:ss from what may be mm:ss or h:mm, `half` what only a clock of twelve hours writes. */
  | { kind: 'clock'; seconds: number; parts: 2 | 3; half?: true }
  /** A day with two numbers that may be day and month, either way round, and the seconds of that day; `half` as above. */
  | { kind: 'slashed'; first: number; second: number; year: number; seconds: number; half: boolean };

/** Numbers as most boards write them; long files are nearly all of these. */
const PLAIN = /^\d{1,9}(\.\d+)?$/;

/** No cell that holds a time is longer. */
const LONGEST_CELL = 40;

const CLOCK = /^\+?(?:(\d+):)?(\d{1,3}):(\d{2}(?:[.,]\d+)?)$/;
const HALF_DAY = /^(\d{1,2}):(\d{2})(?::(\d{2}(?:[.,]\d+)?))?\s*([ap])\.?\s?m\.?$/i;
const ISO = /^\d{4}-\d{2}-\d{2}[T ]\d{2}:\d{2}/;
/** A day, and a clock beside it, as `02.11.2026 10:00:00`, `11/2/26, 10:00 PM` or `2 Nov 2026 10:00`. */
const DAY_AND_CLOCK = /^(.*\d)[\s,T]+(\d{1,2}:\d{2}(?::\d{2}(?:[.,]\d+)?)?(?:\s*[ap]\.?\s?m\.?)?)$/i;

const number = (text: string | undefined) => Number((text ?? '0').replace(',', '.'));

/** Seconds since midnight of a clock’s time, of twelve hours or twenty-four; null where it is none. */
function timeOfDay(text: string): number | null {
  const half = HALF_DAY.exec(text);
  if (half) {
    const [hour, minute, second] = [Number(half[1]), Number(half[2]), number(half[3])];
    if (hour < 1 || hour > 12 || minute > 59 || second >= 60) return null;
    return ((hour % 12) + (half[4]!.toLowerCase() === 'p' ? 12 : 0)) * 3600 + minute * 60 + second;
  }
  const whole = /^(\d{1,2}):(\d{2})(?::(\d{2}(?:[.,]\d+)?))?$/.exec(text);
  if (!whole) return null;
  const [hour, minute, second] = [Number(whole[1]), Number(whole[2]), number(whole[3])];
  return hour > 23 || minute > 59 || second >= 60 ? null : hour * 3600 + minute * 60 + second;
}

/** Seconds since the epoch of a day of the calendar; null where it has no such day. */
function dayOf(year: number, month: number, day: number): number | null {
  const ms = Date.UTC(year, month - 1, day);
  const back = new Date(ms);
  return back.getUTCMonth() === month - 1 && back.getUTCDate() === day ? ms / 1000 : null;
}

/** A day without a time, in any way {@link readTime} knows beside a clock. */
export const isDay = (cell: string): boolean =>
  cell.length <= LONGEST_CELL &&
  (readDay(cell, 'dmy') ?? readDay(cell, 'mdy')) !== null &&
  !cell.includes(':');

/** Reads a cell as a time; plain numbers are multiplied by `scale`. Null where it is none. */
export function readTime(cell: string, scale: number): CellTime | null {
  if (PLAIN.test(cell)) {
    const plain = Number(cell);
    if (plain <= 1e9) return { kind: 'elapsed', seconds: plain * scale };
  }
  const text = cell.trim();
  if (text === '' || text.length > LONGEST_CELL) return null;
  const clock = CLOCK.exec(text);
  if (clock) {
    const seconds = number(clock[3]);
    if (seconds >= 60) return null;
    return {
      kind: 'clock',
      seconds: Number(clock[1] ?? 0) * 3600 + Number(clock[2]) * 60 + seconds,
      parts: clock[1] === undefined ? 2 : 3,
    };
  }
  if (HALF_DAY.test(text)) {
    const seconds = timeOfDay(text);
    return seconds === null ? null : { kind: 'clock', seconds, parts: 3, half: true };
  }
  if (ISO.test(text)) {
    const isLocal = !/([zZ]|[+-]\d{2}:?\d{2})$/.test(text);
    const instant = Date.parse(isLocal ? `${text.replace(' ', 'T').replace(',', '.')}Z` : text);
    return Number.isNaN(instant) ? null : { kind: 'instant', seconds: instant / 1000, isLocal };
  }
  const dated = DAY_AND_CLOCK.exec(text);
  if (dated) {
    const seconds = timeOfDay(dated[2]!);
    return seconds === null
      ? null
      : onDay(dated[1]!.replace(/,$/, '').trim(), seconds, HALF_DAY.test(dated[2]!));
  }
  const value = readNumber(text.replace(/\s*(ms|s|sec|sek|min|h)$/i, ''), 'en');
  const plain = value.ok ? value.value : value.reason === 'wrong-decimal-mark' ? value.meant : null;
  if (plain === null) return null;
  if (plain > 1e9) return { kind: 'instant', seconds: plain > 1e12 ? plain / 1000 : plain, isLocal: false };
  return { kind: 'elapsed', seconds: plain * scale };
}

/** A time of a day: dots and month’s names say which number is the day, slashes and dashes leave it open. */
function onDay(day: string, seconds: number, half: boolean): CellTime | null {
  const figures = figuresOf(day);
  if (figures && figures[0].length <= 2 && !day.includes('.')) {
    const [first, second, year] = figures.map(Number) as [number, number, number];
    return { kind: 'slashed', first, second, year: year < 100 ? 2000 + year : year, seconds, half };
  }
  const read = readDay(day, 'dmy');
  if (read === null) return null;
  return { kind: 'instant', seconds: Date.parse(`${read}T00:00:00Z`) / 1000 + seconds, isLocal: true };
}

const DAY = 86_400;

/** What is known of a file beside what it says: the zone of its clock, and an instant near its readings where it names no day. */
export interface TimesKnown {
  timeZone?: string | undefined;
  near?: string | undefined;
}

/**
 * The times of a file's rows in one count of seconds, in the order of the rows; null for rows whose time is of another sort than the
 * first one's. A clock that passes midnight goes on with the next day. Days written with slashes or dashes are taken day first unless a row
 * says otherwise, or its clock is one of twelve hours. Times without a zone are those of a clock in `timeZone`; those of a clock on the wall
 * without a day (`isOfDay`) are laid on the day nearest to `near`, or stay seconds of their day where nothing is near.
 */
export function timesOf(
  cells: readonly CellTime[],
  { timeZone = 'UTC', near }: TimesKnown = {},
): { seconds: (number | null)[]; absolute: boolean; isOfDay: boolean } {
  const first = cells[0];
  if (!first) return { seconds: [], absolute: false, isOfDay: false };
  const inZone = zoneOf(timeZone);
  if (first.kind === 'clock') {
    const onWall = isOnWall(cells);
    const seconds = unwrapClock(cells, onWall);
    if (!onWall) return { seconds, absolute: false, isOfDay: false };
    if (near === undefined) return { seconds, absolute: false, isOfDay: true };
    const begins = seconds[0]!;
    const wanted = Date.parse(near) / 1000;
    const days = [-1, 0, 1].map((n) => DAY * (Math.floor(wanted / DAY) + n));
    const off = (day: number) => Math.abs(inZone(day + begins) - wanted);
    const day = days.reduce((best, d) => (off(d) < off(best) ? d : best));
    return {
      seconds: seconds.map((s) => (s === null ? null : inZone(day + s))),
      absolute: true,
      isOfDay: true,
    };
  }
  if (first.kind === 'elapsed')
    return {
      seconds: cells.map((c) => (c.kind === 'elapsed' || c.kind === 'clock' ? c.seconds : null)),
      absolute: false,
      isOfDay: false,
    };
  const slashed = cells.filter((c) => c.kind === 'slashed');
  const monthFirst =
    slashed.some((c) => c.second > 12) || (slashed.some((c) => c.half) && !slashed.some((c) => c.first > 12));
  return {
    seconds: cells.map((c) => {
      if (c.kind === 'instant') return c.isLocal ? inZone(c.seconds) : c.seconds;
      if (c.kind !== 'slashed') return null;
      const [day, month] = monthFirst ? [c.second, c.first] : [c.first, c.second];
      const at = dayOf(c.year, month, day);
      return at === null ? null : inZone(at + c.seconds);
    }),
    absolute: true,
    isOfDay: false,
  };
}

/** A clock that begins so late is one on the wall, not one that was started with the log, h. */
const ON_WALL = { threeParts: 1, twoParts: 5 } as const;

/** Whether h:mm:ss, or h:mm, are times of day rather than since the start. */
function isOnWall(cells: readonly CellTime[]): boolean {
  const clocks = cells.filter((c) => c.kind === 'clock');
  if (clocks.some((c) => c.half)) return true;
  const [first] = clocks;
  if (!first) return false;
  return first.parts === 3
    ? first.seconds >= ON_WALL.threeParts * 3600 && clocks.every((c) => c.seconds < DAY)
    : first.seconds >= ON_WALL.twoParts * 60 && clocks.every((c) => c.parts === 2 && c.seconds < 24 * 60);
}

/** Turns what a clock on the wall of a zone shows, as seconds, into seconds since the epoch; the zone is asked once for each hour of the clock. */
function zoneOf(timeZone: string): (seconds: number) => number {
  if (timeZone === 'UTC') return (seconds) => seconds;
  const offsets = new Map<number, number>();
  return (seconds) => {
    const hour = Math.floor(seconds / 3600);
    let offset = offsets.get(hour);
    if (offset === undefined) {
      const shown = new Date(hour * 3_600_000);
      const at = new TZDate(
        shown.getUTCFullYear(),
        shown.getUTCMonth(),
        shown.getUTCDate(),
        shown.getUTCHours(),
        timeZone,
      ).getTime();
      offset = Number.isNaN(at) ? 0 : at / 1000 - hour * 3600;
      offsets.set(hour, offset);
    }
    return seconds + offset;
  };
}

/** Clock times with a day added whenever the clock falls back by more than half a day. */
function unwrapClock(cells: readonly CellTime[], onWall: boolean): (number | null)[] {
  const clocks = cells.map((c) => (c.kind === 'clock' || c.kind === 'elapsed' ? c.seconds : null));
  // 23:58, 23:59, 00:00 are hours and minutes: minutes and seconds do not begin again at 24.
  const known = clocks.filter((s) => s !== null);
  const short = cells.every((c) => c.kind !== 'clock' || c.parts === 2);
  const asHours =
    short &&
    known.every((s) => s < 24 * 60) &&
    (onWall || known.some((s, i) => i > 0 && known[i - 1]! >= 23 * 60 && s < 60));
  const scale = asHours ? 60 : 1;
  let day = 0;
  let before: number | null = null;
  return clocks.map((s) => {
    if (s === null) return null;
    const at: number = s * scale;
    if (before !== null && at < before - DAY / 2) day += DAY;
    before = at;
    return at + day;
  });
}
