import Papa from 'papaparse';
import type { Cell } from '@wunsch/core/spreadsheet';

/** Largest file opened, bytes; and most rows and columns looked at. */
export const LARGEST = { bytes: 10 * 1024 * 1024, rows: 20_000, columns: 200 };

/** One sheet of a file. */
export interface Sheet {
  name: string;
  rows: Cell[][];
}

/** Why a file could not be opened. */
export class TableError extends Error {
  constructor(readonly why: 'too-large' | 'not-a-table' | 'empty') {
    super(why);
    this.name = 'TableError';
  }
}

/** Text of a file in the encoding old programs wrote: UTF-8 with or without its mark, UTF-16, or Windows’ western one. */
function textOf(bytes: Uint8Array): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return new TextDecoder('utf-16be').decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

const isZip = (bytes: Uint8Array) => bytes[0] === 0x50 && bytes[1] === 0x4b;

async function sheetsOf(bytes: ArrayBuffer): Promise<Sheet[]> {
  const { default: readXlsx } = await import('read-excel-file/universal');
  const sheets = await readXlsx(bytes);
  return sheets.map(({ sheet, data }) => ({ name: sheet, rows: data as Cell[][] }));
}

/** Marks that part cells, the comma last: it stands within numbers too. */
const MARKS = [';', '\t', '|', ','];

/** The mark that parts the cells of a text; blank lines, which have none, are not asked. */
const markOf = (text: string): string =>
  Papa.parse(text, { preview: 40, skipEmptyLines: 'greedy', delimitersToGuess: MARKS }).meta.delimiter;

function csvOf(text: string): Cell[][] {
  // A first line that names the mark is a spreadsheet program’s own.
  const named = /^sep=(.)\r?\n/i.exec(text);
  const body = named ? text.slice(named[0].length) : text;
  const delimiter = named?.[1] ?? markOf(body);
  // Blank lines stay, so that rows keep their numbers.
  return Papa.parse<string[]>(body, { skipEmptyLines: false, delimiter }).data;
}

/**
 * Opens a CSV, TSV or XLSX file as sheets of cells.
 *
 * @throws TableError where it is too large, empty, or no table
 */
export async function openTable(file: File): Promise<Sheet[]> {
  if (file.size > LARGEST.bytes) throw new TableError('too-large');
  const buffer = await file.arrayBuffer();
  const bytes = new Uint8Array(buffer);
  const zipped = isZip(bytes);
  let sheets: Sheet[];
  try {
    sheets = zipped ? await sheetsOf(buffer) : [{ name: file.name, rows: csvOf(textOf(bytes)) }];
  } catch {
    throw new TableError('not-a-table');
  }
  // A picture or a program is no text.
  if (
    !zipped &&
    sheets[0]!.rows.some((row) => row.some((c) => typeof c === 'string' && c.includes('\u0000')))
  )
    throw new TableError('not-a-table');
  const filled = sheets.filter((s) =>
    s.rows.some((row) => row.some((c) => c !== null && String(c as string).trim() !== '')),
  );
  if (filled.length === 0) throw new TableError('empty');
  if (filled.some((s) => s.rows.length > LARGEST.rows || s.rows.some((r) => r.length > LARGEST.columns)))
    throw new TableError('too-large');
  return filled;
}

/** As spreadsheets keep a time of day, or hours and minutes that were measured: from their day 0 on. */
const DAY_0 = Date.UTC(1899, 11, 30);

const two = (n: number) => String(Math.floor(n)).padStart(2, '0');

/** A cell as a table of readings writes it: a moment by its day and clock, hours alone as h:mm:ss. */
function asText(cell: Cell | undefined): string {
  if (!(cell instanceof Date)) return cell === null || cell === undefined ? '' : String(cell);
  if (cell.getUTCFullYear() > 1900) return cell.toISOString().slice(0, 19).replace('T', ' ');
  const seconds = Math.round((cell.getTime() - DAY_0) / 1000);
  return `${two(seconds / 3600)}:${two((seconds % 3600) / 60)}:${two(seconds % 60)}`;
}

/**
 * Text of a file of readings, whatever a thermometer's program wrote: CSV or text in its encoding as it stands, of an XLSX file the first
 * sheet that holds anything, as CSV.
 *
 * @throws TableError where it is too large, empty, or neither
 */
export async function openReadings(file: File): Promise<string> {
  if (file.size > LARGEST.bytes) throw new TableError('too-large');
  const buffer = await file.arrayBuffer();
  const bytes = new Uint8Array(buffer);
  if (!isZip(bytes)) {
    const text = textOf(bytes);
    if (text.includes('\u0000')) throw new TableError('not-a-table');
    return text;
  }
  const sheets = await sheetsOf(buffer).catch(() => {
    throw new TableError('not-a-table');
  });
  const sheet = sheets.find((s) => s.rows.length > 1) ?? sheets[0];
  if (!sheet || sheet.rows.length === 0) throw new TableError('empty');
  return Papa.unparse(sheet.rows.map((row) => row.map(asText)));
}
