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

async function sheetsOf(bytes: ArrayBuffer): Promise<Sheet[]> {
  const { default: readXlsx } = await import('read-excel-file/universal');
  const sheets = await readXlsx(bytes);
  return sheets.map(({ sheet, data }) => ({ name: sheet, rows: data as Cell[][] }));
}

function csvOf(text: string): Cell[][] {
  // A first line that names the mark is a spreadsheet program’s own.
  const named = /^sep=(.)\r?\n/i.exec(text);
  const { data } = Papa.parse<string[]>(named ? text.slice(named[0].length) : text, {
    skipEmptyLines: false,
    ...(named && { delimiter: named[1] }),
  });
  return data;
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
  const isZip = bytes[0] === 0x50 && bytes[1] === 0x4b;
  let sheets: Sheet[];
  try {
    sheets = isZip ? await sheetsOf(buffer) : [{ name: file.name, rows: csvOf(textOf(bytes)) }];
  } catch {
    throw new TableError('not-a-table');
  }
  // A picture or a program is no text.
  if (!isZip && sheets[0]!.rows.some((row) => row.some((c) => typeof c === 'string' && c.includes('\u0000'))))
    throw new TableError('not-a-table');
  const filled = sheets.filter((s) =>
    s.rows.some((row) => row.some((c) => c !== null && String(c as string).trim() !== '')),
  );
  if (filled.length === 0) throw new TableError('empty');
  if (filled.some((s) => s.rows.length > LARGEST.rows || s.rows.some((r) => r.length > LARGEST.columns)))
    throw new TableError('too-large');
  return filled;
}
