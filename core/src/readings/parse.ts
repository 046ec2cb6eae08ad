import Papa from 'papaparse';
import { readNumber } from '../quantity/number.ts';
import { readTime, timesOf, type CellTime } from './times.ts';

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
  timeUnit?: 's' | 'min';
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
  timeUnit: 's' | 'min';
}

/** Time between readings that counts as a gap, s. */
const GAP = 300;

/**
 * Reads a table of times and temperatures as thermometers and spreadsheets write them: comma, semicolon
 * or tab between columns, decimal point or comma, a byte-order mark, header lines, times as seconds,
 * minutes, mm:ss, h:mm:ss or ISO instants, °C or °F. Rows come back in order of time; of two at one
 * instant the later row counts. Never throws: a row that makes no sense is listed by its number.
 */
export function parseTemperatureFile(text: string, options: TemperatureFileOptions = {}): TemperatureFile {
  const clean = text.replace(/^\uFEFF/, '');
  const delimiter = findDelimiter(clean);
  const rows = Papa.parse<string[]>(clean, { delimiter, skipEmptyLines: false }).data;
  const header = rows.find((cells) => cells.some((c) => c.trim() !== '')) ?? [];
  const headerText = header.join(' ').toLowerCase();
  const isHeader = header.length > 0 && !header.some((c) => readTime(c, 1) !== null);
  const unit =
    options.unit ?? (isHeader && /°\s?f|\bf\b|fahrenheit|\(f\)|_f\b|℉/.test(headerText) ? '°F' : '°C');
  const minutes =
    isHeader && /\bmin(ute)?s?\b|minuten/.test(headerText) && !/\bsec|sek|\[s\]|\(s\)/.test(headerText);
  const timeScale = (options.timeUnit ?? (minutes ? 'min' : 's')) === 'min' ? 60 : 1;
  const columns = pickColumns(rows, isHeader ? header : [], timeScale, options);

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
    const at = readTime(cells[columns.time]!, timeScale);
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
  const ordered = inOrder(raw);
  const width = Math.max(0, ...rows.slice(0, 60).map((r) => r.length));
  return {
    unit,
    refused,
    ...ordered,
    gaps: ordered.readings.filter((r, i) => i > 0 && r.seconds - ordered.readings[i - 1]!.seconds > GAP)
      .length,
    columns: Array.from({ length: width }, (_, i) => (isHeader && header[i]?.trim()) || String(i + 1)),
    timeColumn: columns.time,
    valueColumn: columns.value,
    timeUnit: timeScale === 60 ? 'min' : 's',
  };
}

function inOrder(raw: readonly { at: CellTime; celsius: number }[]) {
  const { seconds: times, absolute } = timesOf(raw.map((r) => r.at));
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

function pickColumns(rows: string[][], header: string[], timeScale: number, options: TemperatureFileOptions) {
  const named = (pattern: RegExp) => header.findIndex((h) => pattern.test(h.toLowerCase()));
  const data = rows
    .slice(header.length > 0 ? 1 : 0)
    .filter((r) => r.some((c) => /\d/.test(c)))
    .slice(0, 40);
  const width = Math.max(0, ...data.map((r) => r.length));
  const share = (column: number, test: (c: string) => boolean) =>
    data.filter((r) => test(r[column] ?? '')).length;
  const columns = Array.from({ length: width }, (_, i) => i);
  const bestOf = (test: (c: string) => boolean, not: number) =>
    columns
      .filter((c) => c !== not)
      .reduce((best, c) => (best < 0 || share(c, test) > share(best, test) ? c : best), -1);
  let time = options.timeColumn ?? named(/time|zeit|sec|sek|min|elapsed|datum|date/);
  if (time < 0) time = bestOf((c) => readTime(c, timeScale) !== null, -1);
  let value =
    options.valueColumn ?? named(/bean|bohne|bowl|schüssel|probe|temp|value|wert|°c|°f|celsius|fahrenheit/);
  if (value < 0 || value === time) value = bestOf((c) => readDecimal(c) !== null, time);
  return { time: Math.max(0, time), value: Math.max(value, 0) };
}

/** Numbers as most boards write them; long files are nearly all of these. */
const PLAIN = /^-?\d{1,9}(\.\d+)?$/;

/** No cell that holds a number is longer. */
const LONGEST_CELL = 40;

/** The unit written in a cell itself; null where it has none. */
function unitOfCell(cell: string): '°C' | '°F' | null {
  if (PLAIN.test(cell)) return null;
  if (/(℉|[°\s\d]f)$/i.test(cell)) return '°F';
  return /(℃|[°\s\d]c)$/i.test(cell) ? '°C' : null;
}

function readDecimal(cell: string): number | null {
  if (PLAIN.test(cell)) return Number(cell);
  if (cell.length > LONGEST_CELL) return null;
  const text = cell
    .trim()
    .replace(/\u2212/g, '-')
    .replace(/\s*(°\s?[CF]|℃|℉|[CF])$/i, '');
  const sign = text.startsWith('-') ? -1 : 1;
  const bare = text.replace(/^[+-]/, '');
  const english = readNumber(bare, 'en');
  if (english.ok)
    return /,\d{3}$/.test(bare) && !bare.includes('.')
      ? sign * Number(bare.replace(',', '.'))
      : sign * english.value;
  if (english.reason === 'wrong-decimal-mark') return sign * english.meant;
  return null;
}
