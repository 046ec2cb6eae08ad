import { MINUS, readNumber, writeNumber, type NumberLocale } from './number.ts';

/** Currencies whose minor unit is not a hundredth (ISO 4217). */
const MINOR_DIGITS: Readonly<Record<string, number>> = {
  BIF: 0,
  CLP: 0,
  DJF: 0,
  GNF: 0,
  ISK: 0,
  JPY: 0,
  KMF: 0,
  KRW: 0,
  PYG: 0,
  RWF: 0,
  UGX: 0,
  VND: 0,
  VUV: 0,
  XAF: 0,
  XOF: 0,
  XPF: 0,
  BHD: 3,
  IQD: 3,
  JOD: 3,
  KWD: 3,
  LYD: 3,
  OMR: 3,
  TND: 3,
};

/** Decimal places of a currency's minor unit (ISO 4217; 2 where not listed). */
export function minorDigits(currency: string): number {
  return MINOR_DIGITS[currency] ?? 2;
}

/** Money read from text as whole minor units, or why not. */
export type MoneyReading =
  | { ok: true; value: number }
  | {
      ok: false;
      reason: 'empty' | 'not-a-number' | 'negative' | 'wrong-decimal-mark' | 'below-grain';
      text: string;
    };

/**
 * Reads an amount of money as whole minor units of the currency. A currency sign or code may stand before
 * or after. More decimals than the currency has are refused, not rounded.
 *
 * @example parseMoney('£9.44', 'GBP', 'en') // { ok: true, value: 944 }
 */
export function parseMoney(input: string, currency: string, locale: NumberLocale = 'en'): MoneyReading {
  const text = input.trim().replace(/\u2212/g, '-');
  const refuse = (reason: Exclude<MoneyReading, { ok: true }>['reason']): MoneyReading => ({
    ok: false,
    reason,
    text,
  });
  if (text === '') return refuse('empty');
  if (text.startsWith('-')) return refuse('negative');
  const bare = text
    .replace(new RegExp(`^(${currency}|[£€$¥])\\s*`, 'i'), '')
    .replace(new RegExp(`\\s*(${currency}|[£€$¥])$`, 'i'), '');
  const number = readNumber(bare, locale);
  if (!number.ok) return refuse(number.reason);
  const minor = number.value * 10 ** minorDigits(currency);
  if (Math.abs(minor - Math.round(minor)) > 1e-6) return refuse('below-grain');
  return { ok: true, value: Math.round(minor) };
}

const SIGNS: Readonly<Record<string, string>> = { GBP: '£', EUR: '€', USD: '$', JPY: '¥' };

/** The sign money of a currency is written with: `£`, or its code where it has none of its own. */
export const currencySign = (currency: string): string => SIGNS[currency] ?? currency;

/**
 * Writes whole or fractional minor units with the currency's sign, e.g. `£1.53`, `1,53 €`; half a unit is rounded away from zero.
 *
 * @throws RangeError for an amount that is not finite
 */
export function formatMoney(minor: number, currency: string, locale: NumberLocale = 'en'): string {
  if (!Number.isFinite(minor)) throw new RangeError(`an amount of money must be a number, not ${minor}`);
  const digits = minorDigits(currency);
  // Half a penny goes away from zero; a quotient in binary would fall either way.
  const whole = Math.sign(minor) * Math.round(Math.abs(minor) * (1 + Number.EPSILON));
  const number = writeNumber(whole / 10 ** digits, digits, locale);
  const sign = currencySign(currency);
  if (locale !== 'en' || sign.length > 1) return `${number}\u00a0${sign}`;
  return number.startsWith(MINUS) ? `${MINUS}${sign}${number.slice(1)}` : `${sign}${number}`;
}

/**
 * Whole units of a currency, as a spreadsheet wants them: 1250 pence are 12.5, 1250 yen 1250.
 *
 * @param finer decimals kept beyond the smallest unit
 * @throws RangeError for an amount that is no number
 */
export function majorUnits(minor: number, currency: string, finer = 0): number {
  if (!Number.isFinite(minor)) throw new RangeError(`an amount of money must be a number, not ${minor}`);
  const factor = 10 ** finer;
  return Math.round(minor * factor) / (factor * 10 ** minorDigits(currency));
}
