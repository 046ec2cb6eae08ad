import { readDecimal } from './decimal.ts';
import { isDay, readTime, type CellTime, type TimeUnit } from './times.ts';

/** What of a table of readings is what. */
export interface Columns {
  /** Column of times, and of temperatures, from 0. */
  time: number;
  value: number;
  /** Column of days where the times are those of a clock and the days stand beside them; else null. */
  day: number | null;
  /** Names of all columns, from the heading or counted. */
  names: string[];
  unit: '°C' | '°F';
  timeUnit: TimeUnit;
}

/** What the reader of a file has said of it already. */
export interface ColumnsSaid {
  timeColumn?: number | undefined;
  valueColumn?: number | undefined;
}

/** Rows that are looked at. */
const LOOKED_AT = 60;

const FAHRENHEIT = /°\s?f|\bf\b|fahrenheit|\(f\)|_f\b|℉/i;
const CELSIUS = /°\s?c|\bc\b|celsius|\(c\)|_c\b|℃/i;
/** In lines above the table a lone F may be a name. */
const FAHRENHEIT_ABOVE = /°\s?f\b|℉|fahrenheit|units?\b[^a-z]*f\b/i;

const TIMES: readonly RegExp[] = [
  /time|zeit|uhr|elapsed|clock/i,
  /date|datum/i,
  /\b(ms|s|secs?|seconds?|sek|sekunden?|min|mins|minutes?|minuten?|h|hrs?|hours?|stunden?)\b/i,
];
const VALUES: readonly RegExp[] = [
  /bean|bohne|\bbt\b/i,
  /bowl|schüssel/i,
  /probe|fühler/i,
  /temp|thermo/i,
  /value|wert|celsius|fahrenheit|°|℃|℉|\b[cf]\b/i,
];
/** What is wanted is no reading, and neither is how damp the air is. */
const NO_READING = /set|soll|target|ziel|humid|feucht|\brh\b|dew|tau/i;

const UNITS: readonly (readonly [TimeUnit, RegExp])[] = [
  ['ms', /(\b|_)(ms|msec|milli\w*)\b/i],
  ['s', /(\b|_)(s|secs?|seconds?|sek|sekunden?)\b/i],
  ['min', /(\b|_)(min|mins|minutes?|minuten?)\b/i],
  ['h', /(\b|_)(h|hrs?|hours?|stunden?|std)\b/i],
];

const isPart = (cell: string) => readTime(cell, 1) !== null || readDecimal(cell) !== null;

/**
 * Finds what stands where in a table of times and temperatures: below which lines it begins, what its columns are called, which of them are
 * the time, its day and the temperature, and in what units they are written. What is named says most, then what looks like it.
 */
export function findColumns(rows: readonly string[][], said: ColumnsSaid = {}): Columns {
  const filled = rows.flatMap((cells) => (cells.some((c) => c.trim() !== '') ? [cells] : []));
  const looksRead = (cells: string[]) => cells.length > 1 && cells.filter(isPart).length > 1;
  // As wide as most rows that look like readings: a line of the heading may hold two numbers as well.
  const widths = filled
    .slice(0, 4 * LOOKED_AT)
    .filter(looksRead)
    .map((cells) => cells.length);
  const usual = widths.toSorted((a, b) => a - b)[widths.length >> 1] ?? 0;
  const begins = filled.findIndex((cells) => looksRead(cells) && Math.abs(cells.length - usual) <= 1);
  const [above, body] = begins < 0 ? [[], filled] : [filled.slice(0, begins), filled.slice(begins)];
  const heading = headingOf(above, begins < 0 ? filled : []);
  const data = body.slice(0, LOOKED_AT);
  const width = Math.max(0, heading.length, ...data.map((r) => r.length));
  const columns = Array.from({ length: width }, (_, i) => i);
  const of = (column: number) => data.map((r) => (r[column] ?? '').trim());
  const share = (column: number, test: (cell: string) => boolean) =>
    of(column).filter(test).length / Math.max(1, data.length);
  const name = (column: number) => heading[column] ?? '';
  const best = (from: readonly number[], score: (column: number) => number) =>
    from.reduce<number | null>(
      (found, c) => (score(c) > (found === null ? 0 : score(found)) ? c : found),
      null,
    );

  const kindOf = (cell: string): CellTime['kind'] | null => readTime(cell, 1)?.kind ?? null;
  const isTime = (cell: string) => kindOf(cell) !== null;
  const time =
    said.timeColumn ??
    TIMES.flatMap((p) => columns.filter((c) => p.test(name(c)) && share(c, isTime) > 0.5))[0] ??
    // What a clock wrote is a time; a plain number may be anything.
    best(columns, (c) => share(c, (cell) => isTime(cell) && kindOf(cell) !== 'elapsed')) ??
    best(columns, (c) => share(c, isTime)) ??
    0;
  const isClock = share(time, (cell) => kindOf(cell) === 'clock') > 0.5;
  const day = isClock
    ? best(columns, (c) => (c === time || share(c, isDay) <= 0.5 ? 0 : share(c, isDay)))
    : null;
  const others = columns.filter((c) => c !== time && c !== day);
  const isNumber = (cell: string) => readDecimal(cell) !== null;
  const counts = (c: number) => of(c).every((cell, i) => readDecimal(cell) === Number(of(c)[0]) + i);
  const wanted = others.filter((c) => !NO_READING.test(name(c)) && share(c, isNumber) > 0.3);
  const value =
    said.valueColumn ??
    VALUES.flatMap((p) => wanted.filter((c) => p.test(name(c))))[0] ??
    best(
      wanted.filter((c) => data.length < 3 || !counts(c)),
      (c) => share(c, isNumber),
    ) ??
    best(others, (c) => share(c, isNumber)) ??
    others[0] ??
    0;

  const unit = FAHRENHEIT.test(name(value))
    ? '°F'
    : CELSIUS.test(name(value))
      ? '°C'
      : FAHRENHEIT.test(heading.join(' ')) || FAHRENHEIT_ABOVE.test(above.flat().join(' '))
        ? '°F'
        : '°C';
  const named = UNITS.find(([, p]) => p.test(name(time))) ?? UNITS.find(([, p]) => p.test(heading.join(' ')));
  return {
    time,
    value,
    day,
    names: columns.map((c) => name(c).trim() || String(c + 1)),
    unit,
    timeUnit: named?.[0] ?? 's',
  };
}

/** The heading next above the readings: names, and below them their units where those stand in a row of their own. */
function headingOf(above: readonly string[][], unread: readonly string[][]): string[] {
  const last = above.at(-1) ?? unread[0];
  if (!last || last.some((c) => readTime(c, 1) !== null)) return [];
  const before = above.at(-2);
  // A row of units is short words only.
  const isUnits =
    before !== undefined && before.length === last.length && last.every((c) => c.trim().length <= 5);
  if (!isUnits || before.some((c) => readTime(c, 1) !== null)) return last;
  return last.map((c, i) => `${before[i]!.trim()} ${c.trim()}`.trim());
}
