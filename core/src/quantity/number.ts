/** How numbers are written: `en` 1,234.5 and `de` 1.234,5. */
export type NumberLocale = 'en' | 'de';

/** A plain number read from text, or why it is not one. */
export type NumberReading =
  | { ok: true; value: number }
  | { ok: false; reason: 'not-a-number' }
  /** The other locale's decimal mark: the number it would be is offered, never taken. */
  | { ok: false; reason: 'wrong-decimal-mark'; meant: number };

const GROUP_SPACES = /[\u0020\u00a0\u202f\u2009'’]/g;

/**
 * Reads an unsigned decimal number written as the locale writes it.
 *
 * Grouping is accepted only where it is well formed (groups of three). A decimal mark of the other
 * locale is refused with the number it would be, so nothing is guessed silently.
 *
 * @example readNumber('1,234.5', 'en') // { ok: true, value: 1234.5 }
 * @example readNumber('12,5', 'en')    // { ok: false, reason: 'wrong-decimal-mark', meant: 12.5 }
 */
export function readNumber(text: string, locale: NumberLocale): NumberReading {
  const decimal = locale === 'de' ? ',' : '.';
  const group = locale === 'de' ? '.' : ',';
  const spaced = text.trim();
  if (/[\s'’]/.test(spaced) && !/^\d{1,3}([\u0020\u00a0\u202f\u2009'’]\d{3})+([.,]\d+)?$/.test(spaced)) {
    return { ok: false, reason: 'not-a-number' };
  }
  const tight = spaced.replace(GROUP_SPACES, '');
  const g = group === '.' ? '\\.' : ',';
  const d = decimal === '.' ? '\\.' : ',';
  const plain = new RegExp(`^(\\d+(${d}\\d*)?|${d}\\d+)$`);
  const grouped = new RegExp(`^[1-9]\\d{0,2}(${g}\\d{3})+(${d}\\d*)?$`);
  if (plain.test(tight) || grouped.test(tight)) {
    const value = Number(tight.split(group).join('').replace(decimal, '.'));
    return Number.isFinite(value) ? { ok: true, value } : { ok: false, reason: 'not-a-number' };
  }
  const swapped = new RegExp(`^\\d*${g}\\d+$`);
  if (swapped.test(tight)) {
    return { ok: false, reason: 'wrong-decimal-mark', meant: Number(tight.replace(group, '.')) };
  }
  return { ok: false, reason: 'not-a-number' };
}

/** The sign before what is below nothing: a minus, not a hyphen. */
export const MINUS = '\u2212';

/** Writes a finite number with a fixed count of decimals and the locale's marks; trailing zeros are kept. */
export function writeNumber(value: number, decimals: number, locale: NumberLocale, grouping = true): string {
  const negative = value < 0 || Object.is(value, -0);
  const fixed = Math.abs(value).toFixed(decimals);
  const [whole = '0', part] = fixed.split('.');
  const marked = grouping ? whole.replace(/\B(?=(\d{3})+(?!\d))/g, locale === 'de' ? '.' : ',') : whole;
  const body = part === undefined ? marked : `${marked}${locale === 'de' ? ',' : '.'}${part}`;
  const isZero = !/[1-9]/.test(fixed);
  return negative && !isZero ? `${MINUS}${body}` : body;
}
