import Papa from 'papaparse';
import { readNumber } from '../quantity/number.ts';

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
  const raw: { at: Time; celsius: number }[] = [];
  let sawData = false;
  rows.forEach((cells, index) => {
    const line = cells.join(delimiter).trim();
    if (line === '') return;
    if (cells.length <= Math.max(columns.time, columns.value)) {
      if (sawData) refused.push({ row: index + 1, text: line, reason: 'columns' });
      return;
    }
    const at = readTime(cells[columns.time]!, timeScale);
    // A row that tells of other columns only has nothing to say here.
    if (sawData && at !== null && cells[columns.value]!.trim() === '') return;
    const value = readDecimal(cells[columns.value]!);
    if (at === null || value === null) {
      // Lines before the first reading are the file's heading, not mistakes.
      if (sawData) refused.push({ row: index + 1, text: line, reason: at === null ? 'time' : 'value' });
      return;
    }
    const celsius = unit === '°F' ? ((value - 32) * 5) / 9 : value;
    if (celsius < -100 || celsius > 600) {
      refused.push({ row: index + 1, text: line, reason: 'value' });
      return;
    }
    sawData = true;
    raw.push({ at, celsius: Math.round(celsius * 1000) / 1000 });
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

interface Time {
  seconds: number;
  /** True when the seconds count from the epoch. */
  absolute: boolean;
}

function inOrder(raw: readonly { at: Time; celsius: number }[]) {
  const absolute = raw.length > 0 && raw[0]!.at.absolute;
  const same = raw.filter((r) => r.at.absolute === absolute);
  let outOfOrder = 0;
  same.forEach((r, i) => {
    if (i > 0 && r.at.seconds < same[i - 1]!.at.seconds) outOfOrder += 1;
  });
  const byTime = new Map<number, number>();
  for (const r of same) byTime.set(r.at.seconds, r.celsius);
  const sorted = [...byTime].sort((a, b) => a[0] - b[0]);
  const start = absolute ? (sorted[0]?.[0] ?? 0) : 0;
  return {
    readings: sorted.map(([seconds, celsius]) => ({
      seconds: Math.round((seconds - start) * 1000) / 1000,
      celsius,
    })),
    startedAt: absolute && sorted.length > 0 ? new Date(start * 1000).toISOString() : null,
    duplicates: same.length - byTime.size,
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

function readDecimal(cell: string): number | null {
  if (PLAIN.test(cell)) return Number(cell);
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

function readTime(cell: string, scale: number): Time | null {
  if (PLAIN.test(cell)) {
    const plain = Number(cell);
    if (plain >= 0 && plain <= 1e9) return { seconds: plain * scale, absolute: false };
  }
  const text = cell.trim();
  if (text === '') return null;
  const clock = /^\+?(?:(\d+):)?(\d{1,3}):(\d{2}(?:[.,]\d+)?)$/.exec(text);
  if (clock) {
    const seconds = Number(clock[3]!.replace(',', '.'));
    if (seconds >= 60) return null;
    return { seconds: Number(clock[1] ?? 0) * 3600 + Number(clock[2]) * 60 + seconds, absolute: false };
  }
  if (/^\d{4}-\d{2}-\d{2}[T ]\d{2}:\d{2}/.test(text)) {
    const instant = Date.parse(/[zZ]|[+-]\d{2}:?\d{2}$/.test(text) ? text : `${text.replace(' ', 'T')}Z`);
    return Number.isNaN(instant) ? null : { seconds: instant / 1000, absolute: true };
  }
  const number = readDecimal(text.replace(/\s*(s|sec|sek|min)$/i, ''));
  if (number === null || number < 0) return null;
  if (number > 1e9) return { seconds: number > 1e12 ? number / 1000 : number, absolute: true };
  return { seconds: number * scale, absolute: false };
}
