/** Which part of a date written in figures comes first. */
export type DayOrder = 'dmy' | 'mdy' | 'ymd';

const MONTHS: readonly (readonly string[])[] = [
  ['jan', 'jän'],
  ['feb'],
  ['mar', 'mär', 'mrz'],
  ['apr'],
  ['may', 'mai'],
  ['jun'],
  ['jul'],
  ['aug'],
  ['sep'],
  ['oct', 'okt'],
  ['nov'],
  ['dec', 'dez'],
];

const monthOf = (word: string): number =>
  MONTHS.findIndex((m) => m.some((w) => word.toLowerCase().startsWith(w))) + 1;

/** Two figures mean this century. */
const yearOf = (text: string): number => (text.length === 2 ? 2000 + Number(text) : Number(text));

const pad = (n: number, width = 2) => String(n).padStart(width, '0');

function dayFrom(year: number, month: number, day: number): string | null {
  const date = new Date(Date.UTC(year, month - 1, day));
  if (date.getUTCFullYear() !== year || date.getUTCMonth() !== month - 1 || date.getUTCDate() !== day)
    return null;
  return `${pad(year, 4)}-${pad(month)}-${pad(day)}`;
}

/** Three numbers of a date in figures, as they stand; null where it is written otherwise. */
export function figuresOf(text: string): [string, string, string] | null {
  const match = /^(\d{1,4})\s*[./-]\s*(\d{1,2})\s*[./-]\s*(\d{4}|\d{2})(?:[ T,].*)?$/.exec(text.trim());
  return match ? [match[1]!, match[2]!, match[3]!] : null;
}

/**
 * Reads a day as people write it in tables: figures in any of three orders, a month's name in English or German, or a spreadsheet's own date
 * (whose day is taken in UTC, as spreadsheets keep no zone).
 *
 * @returns an ISO day `YYYY-MM-DD`, or null where it is none (30 February is none)
 */
export function readDay(cell: string | number | Date, order: DayOrder): string | null {
  if (cell instanceof Date)
    return Number.isNaN(cell.getTime())
      ? null
      : dayFrom(cell.getUTCFullYear(), cell.getUTCMonth() + 1, cell.getUTCDate());
  if (typeof cell === 'number') return null;
  const text = cell.trim();
  const iso = /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})(?:[T ].*)?$/.exec(text);
  if (iso) return dayFrom(Number(iso[1]), Number(iso[2]), Number(iso[3]));
  const figures = figuresOf(text);
  if (figures) {
    const [a, b, c] = figures;
    if (order === 'ymd') return dayFrom(yearOf(a), Number(b), Number(c));
    if (a.length > 2) return null;
    return order === 'dmy'
      ? dayFrom(yearOf(c), Number(b), Number(a))
      : dayFrom(yearOf(c), Number(a), Number(b));
  }
  const worded =
    /^(?:[a-zäöü]{2,10}\.?,?\s+)?(\d{1,2})\.?\s*[- ]?\s*([a-zäöü]{3,})\.?\s*[-, ]?\s*(\d{4}|\d{2})$/i.exec(
      text,
    );
  if (worded) return dayFrom(yearOf(worded[3]!), monthOf(worded[2]!), Number(worded[1]));
  const american = /^([a-zäöü]{3,})\.?\s+(\d{1,2}),?\s+(\d{4})$/i.exec(text);
  if (american) return dayFrom(Number(american[3]), monthOf(american[1]!), Number(american[2]));
  return null;
}
