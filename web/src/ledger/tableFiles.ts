import Papa from 'papaparse';

/** A table as it is taken away: a name, its heading with units, and its rows. */
export interface TableFile {
  name: string;
  heading: readonly string[];
  rows: readonly (readonly (string | number)[])[];
}

/** A table as CSV (RFC 4180) with a heading; nothing in it is taken for a formula by a spreadsheet. */
export function csvOf({ heading, rows }: Pick<TableFile, 'heading' | 'rows'>): string {
  return Papa.unparse([[...heading], ...rows.map((r) => [...r])], { escapeFormulae: true });
}

/**
 * A table as a spreadsheet’s own file (Office Open XML): numbers are numbers, text is text and never a formula, the heading stays in sight.
 *
 * @throws RangeError for a number that is not finite
 */
export async function xlsxOf({ name, heading, rows }: TableFile): Promise<Blob> {
  const { default: writeXlsx } = await import('write-excel-file/universal');
  const cellOf = (value: string | number) => {
    if (value === '') return null;
    if (typeof value === 'string') return { type: String, value };
    if (!Number.isFinite(value)) throw new RangeError(`a cell must hold a number, not ${value}`);
    return { type: Number, value };
  };
  return writeXlsx(
    [
      heading.map((value) => ({ value, type: String, fontWeight: 'bold' as const })),
      ...rows.map((r) => r.map(cellOf)),
    ],
    {
      sheet: name.slice(0, 31),
      stickyRowsCount: 1,
      columns: heading.map((h) => ({ width: Math.max(10, h.length + 2) })),
    },
  ).toBlob();
}

/** Rows one sheet of a spreadsheet can hold, its heading among them. */
export const MOST_ROWS = 1_048_576;

/** A number as our own files write it; what begins with a needless nought is a code. */
const NUMBER = /^-?(0|[1-9]\d{0,14})(\.\d+)?$/;

/**
 * One of our own CSV files as a table: numbers become numbers again, and the apostrophe goes that kept a text from being taken for a formula, since
 * a cell of text is never one.
 *
 * @throws RangeError for more rows than a sheet can hold
 */
export function tableOf(name: string, csv: string): TableFile {
  const [heading = [], ...rows] = Papa.parse<string[]>(csv.replace(/^\uFEFF/, ''), {
    skipEmptyLines: true,
  }).data;
  if (rows.length + 1 > MOST_ROWS)
    throw new RangeError(`a sheet holds ${MOST_ROWS} rows, and there are ${rows.length + 1}; take the CSV`);
  const cellOf = (text: string) => (NUMBER.test(text) ? Number(text) : text.replace(/^'(?=[=+\-@\t\r])/, ''));
  return { name, heading, rows: rows.map((r) => r.map(cellOf)) };
}

/** Gives a file to the person. */
export function saveFile(name: string, content: Blob): void {
  const url = URL.createObjectURL(content);
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}
