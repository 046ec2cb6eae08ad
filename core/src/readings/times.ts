import { readNumber } from '../quantity/number.ts';

/** A time as a cell writes it. */
export type CellTime =
  /** Seconds since the epoch. */
  | { kind: 'instant'; seconds: number }
  /** Seconds from the start. */
  | { kind: 'elapsed'; seconds: number }
  /** h:mm:ss, of a clock or since the start; `parts` tells h:mm:ss from what may be mm:ss or h:mm. */
  | { kind: 'clock'; seconds: number; parts: 2 | 3 }
  /** A day with two numbers that may be day and month, either way round, and the seconds of that day. */
  | { kind: 'slashed'; first: number; second: number; year: number; seconds: number };

/** Numbers as most boards write them; long files are nearly all of these. */
const PLAIN = /^\d{1,9}(\.\d+)?$/;

/** No cell that holds a time is longer. */
const LONGEST_CELL = 40;

const CLOCK = /^\+?(?:(\d+):)?(\d{1,3}):(\d{2}(?:[.,]\d+)?)$/;
const ISO = /^\d{4}-\d{2}-\d{2}[T ]\d{2}:\d{2}/;
/** `02.11.2026 10:00:00`: day first, as the dots say. */
const DOTTED = /^(\d{1,2})\.(\d{1,2})\.(\d{4})[ ,T]+(\d{1,2}):(\d{2})(?::(\d{2}(?:[.,]\d+)?))?$/;
const SLASHED = /^(\d{1,2})\/(\d{1,2})\/(\d{4})[ ,T]+(\d{1,2}):(\d{2})(?::(\d{2}(?:[.,]\d+)?))?\s*(am|pm)?$/i;

const daySeconds = (h: string, m: string, s: string | undefined) =>
  Number(h) * 3600 + Number(m) * 60 + Number((s ?? '0').replace(',', '.'));

/** Seconds since the epoch of a day of the calendar; null where it has no such day. */
function dayOf(year: number, month: number, day: number): number | null {
  const ms = Date.UTC(year, month - 1, day);
  const back = new Date(ms);
  return back.getUTCMonth() === month - 1 && back.getUTCDate() === day ? ms / 1000 : null;
}

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
    const seconds = Number(clock[3]!.replace(',', '.'));
    if (seconds >= 60) return null;
    return {
      kind: 'clock',
      seconds: Number(clock[1] ?? 0) * 3600 + Number(clock[2]) * 60 + seconds,
      parts: clock[1] === undefined ? 2 : 3,
    };
  }
  if (ISO.test(text)) {
    const instant = Date.parse(/[zZ]|[+-]\d{2}:?\d{2}$/.test(text) ? text : `${text.replace(' ', 'T')}Z`);
    return Number.isNaN(instant) ? null : { kind: 'instant', seconds: instant / 1000 };
  }
  const dotted = DOTTED.exec(text);
  if (dotted) {
    const [, day, month, year, h, m, s] = dotted;
    const at = dayOf(Number(year), Number(month), Number(day));
    const within = daySeconds(h!, m!, s);
    return at === null || Number(h) > 23 || Number(m) > 59 ? null : { kind: 'instant', seconds: at + within };
  }
  const slashed = SLASHED.exec(text);
  if (slashed) {
    const [, first, second, year, h, m, s, half] = slashed;
    const hour = half ? (Number(h) % 12) + (half.toLowerCase() === 'pm' ? 12 : 0) : Number(h);
    if (hour > 23 || Number(m) > 59) return null;
    return {
      kind: 'slashed',
      first: Number(first),
      second: Number(second),
      year: Number(year),
      seconds: daySeconds(String(hour), m!, s),
    };
  }
  const number = readNumber(text.replace(/\s*(s|sec|sek|min)$/i, ''), 'en');
  const value = number.ok ? number.value : number.reason === 'wrong-decimal-mark' ? number.meant : null;
  if (value === null) return null;
  if (value > 1e9) return { kind: 'instant', seconds: value > 1e12 ? value / 1000 : value };
  return { kind: 'elapsed', seconds: value * scale };
}

const DAY = 86_400;

/**
 * The times of a file's rows in one count of seconds, in the order of the rows; null for rows whose time is of another sort than the
 * first one's. A clock that passes midnight goes on with the next day. Days written with slashes are taken day first unless a row
 * says otherwise.
 */
export function timesOf(cells: readonly CellTime[]): { seconds: (number | null)[]; absolute: boolean } {
  const first = cells[0];
  if (!first) return { seconds: [], absolute: false };
  if (first.kind === 'clock') return { seconds: unwrapClock(cells), absolute: false };
  if (first.kind === 'slashed') {
    const monthFirst = cells.some((c) => c.kind === 'slashed' && c.second > 12);
    return {
      seconds: cells.map((c) => {
        if (c.kind !== 'slashed') return c.kind === 'instant' ? c.seconds : null;
        const [day, month] = monthFirst ? [c.second, c.first] : [c.first, c.second];
        const at = dayOf(c.year, month, day);
        return at === null ? null : at + c.seconds;
      }),
      absolute: true,
    };
  }
  const absolute = first.kind === 'instant';
  return {
    seconds: cells.map((c) =>
      absolute
        ? c.kind === 'instant'
          ? c.seconds
          : null
        : c.kind === 'elapsed' || c.kind === 'clock'
          ? c.seconds
          : null,
    ),
    absolute,
  };
}

/** Clock times with a day added whenever the clock falls back by more than half a day. */
function unwrapClock(cells: readonly CellTime[]): (number | null)[] {
  const clocks = cells.map((c) => (c.kind === 'clock' || c.kind === 'elapsed' ? c.seconds : null));
  // 23:58, 23:59, 00:00 are hours and minutes: minutes and seconds do not begin again at 24.
  const known = clocks.filter((s) => s !== null);
  const short = cells.every((c) => c.kind !== 'clock' || c.parts === 2);
  const asHours =
    short &&
    known.every((s) => s < 24 * 60) &&
    known.some((s, i) => i > 0 && known[i - 1]! >= 23 * 60 && s < 60);
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
