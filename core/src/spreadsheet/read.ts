import { parseMoney, minorDigits } from '../quantity/index.ts';
import { readNumber } from '../quantity/index.ts';
import { parseQuantity } from '../quantity/index.ts';
import { readDay } from '../quantity/index.ts';
import { FIELDS, type Field, type TableKind } from './fields.ts';
import type { Cell, Column, Mapping } from './guess.ts';

/** Why a cell could not be read. */
export type Unreadable =
  | 'missing'
  | 'no-number'
  | 'other-mark'
  | 'no-day'
  | 'too-early'
  | 'in-future'
  | 'no-mass'
  | 'no-money'
  | 'no-count'
  | 'off-scale'
  | 'too-long'
  | 'twice';

/** A cell that could not be read, or is missing. */
export interface Trouble {
  /** Row of the file, from 1, as a spreadsheet numbers it. */
  row: number;
  field: string;
  /** What stands there. */
  text: string;
  why: Unreadable;
}

/** A row that was read: its number in the file, and what it says by field. */
export type ReadRow = { row: number } & Record<string, string | number>;

/** A table as read. */
export interface ReadTable {
  rows: ReadRow[];
  /** Rows that cannot be taken as they stand, with every cell that is in the way. */
  troubles: Trouble[];
  /** Rows left out because nothing, or only a sum, stands in them. */
  skipped: number[];
}

/** What reading needs to know beside the mapping. */
export interface ReadingOf {
  currency: string;
  /** Today, ISO day; what is said to have been later is refused. */
  today: string;
}

const LONGEST = 400;
const EARLIEST = '1980-01-01';
const TOTALS =
  /^(total|totals|sum|subtotal|summe|gesamt|zwischensumme|average|mean|mittel|durchschnitt|ø)\b/i;

const textOf = (cell: Cell | undefined): string =>
  cell === null || cell === undefined
    ? ''
    : cell instanceof Date
      ? cell.toISOString().slice(0, 10)
      : String(cell).trim();

type Reading = { value: string | number } | { why: Unreadable };

function readMass(cell: Cell, unit: string, mapping: Mapping): Reading {
  if (typeof cell === 'number') {
    const read = parseQuantity(String(Math.abs(cell)).includes('e') ? cell.toFixed(9) : String(cell), {
      dimension: 'mass',
      unit,
    });
    return read.ok && read.value > 0 ? { value: read.value } : { why: 'no-mass' };
  }
  const read = parseQuantity(textOf(cell), { dimension: 'mass', unit, locale: mapping.numbers });
  if (read.ok) return read.value > 0 ? { value: read.value } : { why: 'no-mass' };
  return { why: read.reason === 'wrong-decimal-mark' ? 'other-mark' : 'no-mass' };
}

function readMoney(cell: Cell, currency: string, mapping: Mapping): Reading {
  if (typeof cell === 'number') {
    // A spreadsheet's own sums carry a binary crumb.
    const minor = Math.round(cell * 10 ** minorDigits(currency));
    return Number.isFinite(minor) && minor >= 0 ? { value: minor } : { why: 'no-money' };
  }
  const read = parseMoney(textOf(cell), currency, mapping.numbers);
  if (read.ok) return { value: read.value };
  return { why: read.reason === 'wrong-decimal-mark' ? 'other-mark' : 'no-money' };
}

function readPlain(cell: Cell, mapping: Mapping): { value: number } | { why: Unreadable } {
  if (typeof cell === 'number') return Number.isFinite(cell) ? { value: cell } : { why: 'no-number' };
  const read = readNumber(textOf(cell).replace(/\s*(%|pcs|stk\.?|stück)$/i, ''), mapping.numbers);
  if (read.ok) return { value: read.value };
  return { why: read.reason === 'wrong-decimal-mark' ? 'other-mark' : 'no-number' };
}

function readCell(field: Field, cell: Cell, column: Column, mapping: Mapping, of: ReadingOf): Reading {
  if (field.type === 'text') {
    const text = textOf(cell);
    return text.length > LONGEST ? { why: 'too-long' } : { value: text };
  }
  if (field.type === 'mass') return readMass(cell, column.unit ?? 'g', mapping);
  if (field.type === 'money') return readMoney(cell, of.currency, mapping);
  if (field.type === 'day') {
    const day = typeof cell === 'boolean' || cell === null ? null : readDay(cell, mapping.days);
    if (day === null) return { why: 'no-day' };
    return day < EARLIEST
      ? { why: 'too-early' }
      : day > of.today && !field.ahead
        ? { why: 'in-future' }
        : { value: day };
  }
  const read = readPlain(cell, mapping);
  if ('why' in read) return read;
  const { value } = read;
  if (field.type === 'count')
    return Number.isInteger(value) && value > 0 && value <= 10_000_000 ? read : { why: 'no-count' };
  if (field.type === 'percent') {
    // 7 % written as a share.
    const percent = typeof cell === 'number' && value > 0 && value < 1 ? value * 100 : value;
    return percent >= 0 && percent <= 60 ? { value: percent } : { why: 'off-scale' };
  }
  const top = Number(column.unit ?? 10);
  return value >= 0 && value <= top
    ? { value: Math.round((value / top) * 1000) / 100 }
    : { why: 'off-scale' };
}

/** Fields by which a table tells its rows apart. */
const KEYS: Partial<Record<TableKind, string>> = { lots: 'code', batches: 'code' };

/**
 * Reads a table by its mapping. A row is taken whole or not at all: one cell that cannot be read leaves the row out and is named with its row and
 * reason. Empty rows, and rows of sums, are left out and counted.
 *
 * @throws RangeError for a day that is none, or a column outside any row
 */
export function readTable(
  kind: TableKind,
  rows: readonly (readonly Cell[])[],
  mapping: Mapping,
  of: ReadingOf,
): ReadTable {
  if (!/^\d{4}-\d{2}-\d{2}$/.test(of.today))
    throw new RangeError(`today must be a day YYYY-MM-DD, not ${of.today}`);
  for (const [id, { at }] of Object.entries(mapping.columns))
    if (!Number.isInteger(at) || at < 0) throw new RangeError(`${id} must be in a column from 0, not ${at}`);
  const table: ReadTable = { rows: [], troubles: [], skipped: [] };
  const seen = new Set<string>();
  const key = KEYS[kind];
  rows.slice(mapping.headings + 1).forEach((cells, i) => {
    const row = mapping.headings + 2 + i;
    const texts = cells.map(textOf);
    const first = texts.find((t) => t !== '');
    if (first === undefined || TOTALS.test(first)) {
      table.skipped.push(row);
      return;
    }
    const read: ReadRow = { row };
    const troubles: Trouble[] = [];
    for (const field of FIELDS[kind]) {
      const column = mapping.columns[field.id];
      const cell = column ? (cells[column.at] ?? null) : null;
      const text = textOf(cell);
      if (text === '') {
        if (field.required) troubles.push({ row, field: field.id, text: '', why: 'missing' });
        continue;
      }
      const reading = readCell(field, cell, column!, mapping, of);
      if ('why' in reading)
        troubles.push({ row, field: field.id, text: text.slice(0, 60), why: reading.why });
      else read[field.id] = reading.value;
    }
    const code = key === undefined ? undefined : read[key];
    if (typeof code === 'string') {
      if (seen.has(code.toLowerCase())) troubles.push({ row, field: key!, text: code, why: 'twice' });
      seen.add(code.toLowerCase());
    }
    if (troubles.length > 0) table.troubles.push(...troubles);
    else table.rows.push(read);
  });
  return table;
}
