import type { NumberLocale } from '../quantity/index.ts';
import { figuresOf, type DayOrder } from '../quantity/index.ts';
import { FIELDS, TABLE_KINDS, type Field, type TableKind } from './fields.ts';

/** A cell as a file gives it: text, or a number or date of the spreadsheet's own. */
export type Cell = string | number | boolean | Date | null;

/** Where a field stands, and in which unit where its cells name none. */
export interface Column {
  /** Place in the row, from 0. */
  at: number;
  /** `g`, `kg`, `lb` or `oz` of masses; the scale's top of scores, e.g. `5`. */
  unit?: string;
}

/** How a table is to be read. */
export interface Mapping {
  /** Row of the headings, from 0; −1 where there are none. */
  headings: number;
  columns: Readonly<Record<string, Column>>;
  /** How numbers written as text are written. */
  numbers: NumberLocale;
  days: DayOrder;
  /** What was seen, and what was only supposed and should be looked at. */
  sure: { numbers: boolean; days: boolean; units: boolean };
}

/** Most rows looked at for headings, and for how figures are written. */
const LOOKED_AT = { headings: 15, figures: 400 };

const plain = (cell: Cell): string =>
  typeof cell === 'string'
    ? cell
        .toLowerCase()
        .replace(/[([].*?[)\]]/g, ' ')
        .replace(/\b(in|je|per|pro)\s+(kg|g|lb|oz)\b/g, ' ')
        .replace(/[^\p{L}\p{N}]+/gu, ' ')
        .replace(/ (kg|g|lb|oz|nr|no)$/, ' ')
        .trim()
    : '';

/** How well a heading is a field's: 3 the very words, 2 the field's words and a unit or number more, 1 a word of it, 0 not at all. */
function fit(heading: string, field: Field): number {
  if (heading === '') return 0;
  if (field.headings.includes(heading)) return 3;
  if (field.headings.some((h) => heading.startsWith(`${h} `) || heading.endsWith(` ${h}`))) return 2;
  const words = heading.split(' ');
  return field.headings.some((h) => words.includes(h)) ? 1 : 0;
}

/** The mass unit a heading names, in brackets or as its last word. */
function unitIn(cell: Cell): string | undefined {
  if (typeof cell !== 'string') return undefined;
  const found =
    /(?:^|[\s([/,])(kg|kilos?|kilogramm?|g|gr|grams?|gramm|lbs?|pounds?|pfund|oz|ounces?)[\s)\].,]*$/i.exec(
      cell.trim(),
    );
  const word = found?.[1]?.toLowerCase();
  if (!word) return undefined;
  if (word.startsWith('k')) return 'kg';
  if (word.startsWith('g')) return 'g';
  return word.startsWith('o') ? 'oz' : 'lb';
}

/** Fields to columns, best fits first, each column and field once. */
function columnsOf(kind: TableKind, row: readonly Cell[]): Record<string, Column> {
  const fits = FIELDS[kind].flatMap((field, order) =>
    row.map((cell, at) => {
      const score = fit(plain(cell), field);
      // A mass is what a heading with a unit of mass is about.
      const named = unitIn(cell) !== undefined && field.type === 'mass' ? 0.5 : 0;
      return { field, at, order, score: score > 0 ? score + named : 0 };
    }),
  );
  const columns: Record<string, Column> = {};
  const taken = new Set<number>();
  for (const { field, at, score } of fits.sort(
    (a, b) => b.score - a.score || a.order - b.order || a.at - b.at,
  )) {
    if (score === 0 || taken.has(at) || columns[field.id]) continue;
    const unit = field.type === 'mass' ? unitIn(row[at] ?? null) : undefined;
    columns[field.id] = { at, ...(unit && { unit }) };
    taken.add(at);
  }
  return columns;
}

const required = (kind: TableKind, columns: Readonly<Record<string, Column>>): number =>
  FIELDS[kind].filter((f) => f.required && columns[f.id]).length;

/** The row that looks most like headings of such a table; −1 where none does. */
function headingsOf(kind: TableKind, rows: readonly (readonly Cell[])[]): number {
  let best = { at: -1, score: 1 };
  rows.slice(0, LOOKED_AT.headings).forEach((row, at) => {
    const columns = columnsOf(kind, row);
    const score = Object.keys(columns).length + required(kind, columns);
    if (score > best.score) best = { at, score };
  });
  return best.at;
}

/** Which kind of table these rows are; null where no row has headings of any. */
export function guessKind(rows: readonly (readonly Cell[])[]): TableKind | null {
  let best: { kind: TableKind | null; share: number } = { kind: null, share: 0.5 };
  for (const kind of TABLE_KINDS) {
    const at = headingsOf(kind, rows);
    if (at < 0) continue;
    const columns = columnsOf(kind, rows[at]!);
    const needed = FIELDS[kind].filter((f) => f.required).length;
    const used = Object.keys(columns).length / Math.max(1, rows[at]!.filter((c) => plain(c) !== '').length);
    const share = (required(kind, columns) / needed) * (0.5 + Math.min(1, used) / 2);
    if (share > best.share) best = { kind, share };
  }
  return best.kind;
}

const texts = (rows: readonly (readonly Cell[])[], ats: readonly number[]): string[] =>
  rows.flatMap((row) =>
    ats.map((at) => row[at]).filter((c): c is string => typeof c === 'string' && c.trim() !== ''),
  );

/** By which mark numbers are written, from marks that can mean only one thing: 12,5 and 1.234,5 or 12.5 and 1,234.5. */
function numbersIn(cells: readonly string[]): NumberLocale | null {
  let votes = 0;
  for (const cell of cells) {
    const number = /[\d.,]*\d/.exec(cell)?.[0] ?? '';
    const last = Math.max(number.lastIndexOf(','), number.lastIndexOf('.'));
    if (last < 0) continue;
    const mark = number[last]!;
    const both = number.includes(',') && number.includes('.');
    // One mark before three figures may group or part; it is no evidence.
    if (!both && number.length - last - 1 === 3 && number.indexOf(mark) === last) continue;
    const groups = !both && number.indexOf(mark) !== last;
    votes += (mark === ',') === !groups ? 1 : -1;
  }
  return votes > 0 ? 'de' : votes < 0 ? 'en' : null;
}

/** In which order days are written, from figures that can be only one thing. */
function daysIn(cells: readonly string[]): { order: DayOrder; sure: boolean } | null {
  const figures = cells.map(figuresOf).filter((f) => f !== null);
  if (figures.length === 0) return null;
  if (figures.every(([a]) => a.length === 4)) return { order: 'ymd', sure: true };
  if (figures.some(([a]) => Number(a) > 12)) return { order: 'dmy', sure: true };
  if (figures.some(([, b]) => Number(b) > 12)) return { order: 'mdy', sure: true };
  // Points stand between day and month where people write the day first.
  return { order: 'dmy', sure: cells.some((c) => /^\d{1,2}\.\d{1,2}\./.test(c.trim())) };
}

const median = (values: number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1] ?? 0;

const numberIn = (cell: Cell): number =>
  typeof cell === 'number'
    ? cell
    : typeof cell === 'string'
      ? Number.parseFloat(cell.replace(',', '.'))
      : Number.NaN;

/** The mass unit that makes a column's figures plausible where nothing names it. */
function likelyUnit(kind: TableKind, field: Field, values: number[]): string {
  if (field.id === 'barMg') return 'g';
  const middle = median(values);
  if (kind === 'lots') return middle >= 2000 ? 'g' : 'kg';
  return middle >= 100 ? 'g' : 'kg';
}

/** The top of the scale scores were given on: the smallest usual one that holds them all. */
function likelyScale(values: number[]): string {
  const most = Math.max(0, ...values);
  return most <= 5 ? '5' : most <= 10 ? '10' : '100';
}

/**
 * Guesses how a table of a maker's old spreadsheet is to be read: where its headings are, which column is which field, units, the decimal mark and
 * the order of dates. Everything can be put right afterwards; what was only supposed is said in `sure`.
 *
 * @param rows as read from the file, any number, each of any length
 * @param fallback how the reader writes numbers, where the cells do not show it
 */
export function guessMapping(
  kind: TableKind,
  rows: readonly (readonly Cell[])[],
  fallback: NumberLocale = 'en',
): Mapping {
  const headings = headingsOf(kind, rows);
  const columns = headings < 0 ? {} : columnsOf(kind, rows[headings]!);
  return withFigures(kind, rows, { headings, columns }, fallback);
}

/** Looks at the figures below the headings, once it is known which column is which. */
export function withFigures(
  kind: TableKind,
  rows: readonly (readonly Cell[])[],
  { headings, columns }: Pick<Mapping, 'headings' | 'columns'>,
  fallback: NumberLocale = 'en',
): Mapping {
  const body = rows.slice(headings + 1, headings + 1 + LOOKED_AT.figures);
  const atOf = (...types: Field['type'][]) =>
    FIELDS[kind].filter((f) => types.includes(f.type) && columns[f.id]).map((f) => columns[f.id]!.at);
  const numbers = numbersIn(texts(body, atOf('mass', 'money', 'percent', 'score')));
  const figures = texts(body, atOf('mass', 'money', 'percent', 'score')).some((c) => /[.,]/.test(c));
  const days = daysIn(texts(body, atOf('day')));
  let units = true;
  const complete: Record<string, Column> = {};
  for (const field of FIELDS[kind]) {
    const column = columns[field.id];
    if (!column) continue;
    const cells = body.map((row) => row[column.at] ?? null);
    const values = cells.map(numberIn).filter(Number.isFinite);
    if (field.type === 'mass' && !column.unit) {
      const named = cells.map(unitIn).find((u) => u !== undefined);
      if (!named && values.length > 0) units = false;
      complete[field.id] = { ...column, unit: named ?? likelyUnit(kind, field, values) };
    } else if (field.type === 'score' && !column.unit)
      complete[field.id] = { ...column, unit: likelyScale(values) };
    else complete[field.id] = column;
  }
  return {
    headings,
    columns: complete,
    numbers: numbers ?? fallback,
    days: days?.order ?? 'dmy',
    sure: { numbers: numbers !== null || !figures, days: days?.sure ?? true, units },
  };
}
