import { readNumber } from '../quantity/number.ts';

/** Numbers as most boards write them; long files are nearly all of these. */
const PLAIN = /^-?\d{1,9}(\.\d+)?$/;

/** No cell that holds a number is longer. */
const LONGEST_CELL = 40;

/** The unit written in a cell of a table of temperatures itself; null where it has none. */
export function unitOfCell(cell: string): '°C' | '°F' | null {
  if (PLAIN.test(cell)) return null;
  if (/(℉|[°\s\d]f)$/i.test(cell)) return '°F';
  return /(℃|[°\s\d]c)$/i.test(cell) ? '°C' : null;
}

/** A number with decimal point or comma, its unit behind it or not; null where a cell holds none. */
export function readDecimal(cell: string): number | null {
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
