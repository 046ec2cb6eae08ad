import Papa from 'papaparse';

/** A table as CSV (RFC 4180) with a heading; nothing in it is taken for a formula by a spreadsheet. */
export function csvOf(heading: readonly string[], rows: readonly (readonly (string | number)[])[]): string {
  return Papa.unparse([[...heading], ...rows.map((r) => [...r])], { escapeFormulae: true });
}

/** Gives a text to the person as a file. */
export function saveFile(name: string, text: string, type = 'text/csv;charset=utf-8'): void {
  const url = URL.createObjectURL(new Blob(['\uFEFF', text], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}
