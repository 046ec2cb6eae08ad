import Papa from 'papaparse';
import { findColumns } from './columns.ts';
import { readDecimal, unitOfCell } from './decimal.ts';
import { readTime, SECONDS_OF, timesOf, type CellTime, type TimesKnown, type TimeUnit } from './times.ts';

/** One reading: seconds from the first row or the stated start, and °C. */
export interface TemperatureReading {
  seconds: number;
  celsius: number;
}

/** How to read the file, where the file does not say so itself. */
export interface TemperatureFileOptions {
  /** Unit of the values; found from the header where left out, else °C. */
  unit?: '°C' | '°F';
  /** Unit of plain numbers in the time column; found from the header where left out, else seconds. */
  timeUnit?: TimeUnit;
  /** Zone of the clock that wrote times without one, as `Europe/Berlin`; UTC where left out. */
  timeZone?: string;
  /** ISO instant near the readings, for files that name hours of the day and no day. */
  near?: string;
  /** Columns counted from 0; the first time-like and first number-like ones where left out. */
  timeColumn?: number;
  valueColumn?: number;
}

/** What was read, and what was not and why. */
export interface TemperatureFile {
  readings: TemperatureReading[];
  unit: '°C' | '°F';
  /** ISO instant of second 0 when the file carries dates. */
  startedAt: string | null;
  /** Whether its times are hours of a day that it does not name. */
  isOfDay: boolean;
  /** Rows (counted from 1, as a spreadsheet does) that could not be read. */
  refused: { row: number; text: string; reason: 'time' | 'value' | 'columns' }[];
  duplicates: number;
  outOfOrder: number;
  /** Gaps of over five minutes between readings. */
  gaps: number;
  /** Names of the columns, from the heading or counted, and the two that were read. */
  columns: string[];
  timeColumn: number;
  valueColumn: number;
  timeUnit: TimeUnit;
}

/** Time between readings that counts as a gap, s. */
const GAP = 300;

/**
 * Reads a table of times and temperatures as thermometers and spreadsheets write them: comma, semicolon
 * or tab between columns, decimal point or comma, a byte-order mark, lines above the heading, a row of units below it, times as
 * milliseconds to hours, mm:ss, h:mm:ss, clocks of twelve hours, days in a column of their own or beside the time, ISO instants, °C or °F.
 * Rows come back in order of time; of two at one instant the later row counts. Never throws: a row that makes no sense is listed by its
 * number.
 */
export function parseTemperatureFile(text: string, options: TemperatureFileOptions = {}): TemperatureFile {
  const clean = text.replace(/^\uFEFF/, '');
  const delimiter = findDelimiter(clean);
  const rows = Papa.parse<string[]>(clean, { delimiter, skipEmptyLines: false }).data;
  const columns = findColumns(rows, options);
  const unit = options.unit ?? columns.unit;
  const timeUnit = options.timeUnit ?? columns.timeUnit;
  const timeScale = SECONDS_OF[timeUnit];

  const refused: TemperatureFile['refused'] = [];
  const raw: { at: CellTime; celsius: number }[] = [];
  let sawData = false;
  rows.forEach((cells, index) => {
    const line = cells.join(delimiter).trim();
    if (line === '') return;
    const refuse = (reason: TemperatureFile['refused'][number]['reason']) =>
      refused.push({ row: index + 1, text: line.slice(0, 200), reason });
    if (cells.length <= Math.max(columns.time, columns.value)) {
      if (sawData) refuse('columns');
      return;
    }
    const written = cells[columns.time]!;
    const at = readTime(
      columns.day === null ? written : `${cells[columns.day] ?? ''} ${written.trim()}`,
      timeScale,
    );
    const shown = cells[columns.value]!.trim();
    // A row that tells of other columns only has nothing to say here.
    if (at !== null && shown === '') return;
    const value = readDecimal(shown);
    if (at === null || value === null) {
      // Lines before the first reading are the file's heading, not mistakes, unless they hold a time.
      if (sawData || at !== null) refuse(at === null ? 'time' : 'value');
      return;
    }
    // A unit in the cell itself stands above the heading's.
    const celsius = (unitOfCell(shown) ?? unit) === '°F' ? ((value - 32) * 5) / 9 : value;
    if (celsius < -100 || celsius > 600) {
      refuse('value');
      return;
    }
    sawData = true;
    raw.push({ at, celsius: Math.round(celsius * 1000) / 1000 });
  });
  // Nothing could be read at all: then every row that holds a number was meant as a reading, and is named.
  if (!sawData && refused.length === 0)
    rows.forEach((cells, index) => {
      const line = cells.join(delimiter).trim();
      if (/\d/.test(line)) refused.push({ row: index + 1, text: line.slice(0, 200), reason: 'time' });
    });
  const ordered = inOrder(raw, options);
  return {
    unit,
    refused,
    ...ordered,
    gaps: ordered.readings.filter((r, i) => i > 0 && r.seconds - ordered.readings[i - 1]!.seconds > GAP)
      .length,
    columns: columns.names,
    timeColumn: columns.time,
    valueColumn: columns.value,
    timeUnit,
  };
}

function inOrder(raw: readonly { at: CellTime; celsius: number }[], known: TimesKnown) {
  const {
    seconds: times,
    absolute,
    isOfDay,
  } = timesOf(
    raw.map((r) => r.at),
    known,
  );
  let outOfOrder = 0;
  let before = -Infinity;
  const byTime = new Map<number, number>();
  let same = 0;
  raw.forEach((r, i) => {
    const at = times[i]!;
    if (at === null) return;
    same += 1;
    if (at < before) outOfOrder += 1;
    before = at;
    byTime.set(at, r.celsius);
  });
  const sorted = [...byTime].sort((a, b) => a[0] - b[0]);
  const start = absolute ? (sorted[0]?.[0] ?? 0) : 0;
  return {
    readings: sorted.map(([seconds, celsius]) => ({
      seconds: Math.round((seconds - start) * 1000) / 1000,
      celsius,
    })),
    startedAt: absolute && sorted.length > 0 ? new Date(start * 1000).toISOString() : null,
    isOfDay,
    duplicates: same - byTime.size,
    outOfOrder,
  };
}

function findDelimiter(text: string): string {
  const sample = text
    .split(/\r?\n/)
    .filter((l) => /\d/.test(l))
    .slice(0, 50);
  const count = (d: string) => sample.filter((l) => l.includes(d)).length;
  // A comma may be the decimal mark, so it is only the delimiter where nothing else separates the lines.
  for (const d of [';', '\t', '|']) if (count(d) > sample.length / 2) return d;
  return ',';
}
