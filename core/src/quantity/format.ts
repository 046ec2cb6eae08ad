import { writeNumber, type NumberLocale } from './number.ts';
import { MG_PER_OUNCE, MG_PER_POUND, toGrain, unitOf, type Dimension } from './units.ts';

/** How a stored value is written. */
export interface FormatOptions {
  dimension: Dimension;
  unit: string;
  locale?: NumberLocale;
  /** Decimals shown. Left out, as many as it takes to read back the very same stored value. */
  decimals?: number;
  /** Leave the unit off, for a table whose header carries it. */
  bare?: boolean;
}

/** Most decimals ever needed to tell two neighbouring stored values apart (1 mg in tonnes: nine). */
const MOST_DECIMALS = 10;

/**
 * Writes a stored value in a unit. Without `decimals` it is the shortest text that reads back to the same
 * value: `parseQuantity(formatQuantity(x))` is x for every whole multiple of the dimension's grain.
 * A no-break space stands between number and unit.
 *
 * @throws RangeError for a unit the dimension does not have or a value that is not finite
 * @example formatQuantity(2_450_000, { dimension: 'mass', unit: 'kg' }) // '2.45 kg'
 */
export function formatQuantity(stored: number, options: FormatOptions): string {
  const { dimension, unit, locale = 'en', bare = false } = options;
  if (!Number.isFinite(stored)) throw new RangeError(`cannot write ${stored} as a ${dimension}`);
  const { scale, offset, symbol } = unitOf(dimension, unit);
  const amount = (stored - offset) / scale;
  const decimals = options.decimals ?? shortestDecimals(stored, amount, options);
  const number = writeNumber(amount, decimals, locale);
  return bare || symbol === '' ? number : `${number}\u00a0${symbol}`;
}

function shortestDecimals(stored: number, amount: number, { dimension, unit }: FormatOptions): number {
  const { scale, offset } = unitOf(dimension, unit);
  const target = toGrain(dimension, stored);
  for (let decimals = 0; decimals < MOST_DECIMALS; decimals += 1) {
    const back = Number(amount.toFixed(decimals)) * scale + offset;
    if (toGrain(dimension, back) === target) return decimals;
  }
  return MOST_DECIMALS;
}

/** Decimals beyond which a stored value is not written out in a field. */
const FIELD_DECIMALS = 3;

/** Digits that a small value keeps in a field all the same. */
const FIELD_DIGITS = 3;

/**
 * Writes a stored value as it stands in a field before anybody types: as {@link formatQuantity}, but where reading back would take more than three
 * decimals (40 g are 1.410958 oz) it is rounded to three, or to three digits. Whoever shows it keeps the stored value until something is typed.
 *
 * @throws RangeError for a unit the dimension does not have or a value that is not finite
 * @example formatInField(40_000, { dimension: 'mass', unit: 'oz' }) // '1.411'
 */
export function formatInField(stored: number, options: Omit<FormatOptions, 'decimals' | 'bare'>): string {
  const exact = formatQuantity(stored, { ...options, bare: true });
  const { scale, offset } = unitOf(options.dimension, options.unit);
  const amount = (stored - offset) / scale;
  if (shortestDecimals(stored, amount, options) <= FIELD_DECIMALS) return exact;
  const small = amount === 0 ? 0 : FIELD_DIGITS - 1 - Math.floor(Math.log10(Math.abs(amount)));
  let decimals = Math.min(MOST_DECIMALS, Math.max(FIELD_DECIMALS, small));
  const rounded = Number(amount.toFixed(decimals));
  while (decimals > 0 && Number(rounded.toFixed(decimals - 1)) === rounded) decimals -= 1;
  return writeNumber(rounded, decimals, options.locale ?? 'en');
}

/** The mass below which pounds are written as ounces: one pound as it is stored, mg. */
const OUNCES_BELOW = toGrain('mass', MG_PER_POUND);

/** The unit in which a mass is written or typed where masses are pounds and ounces: ounces below one pound. */
export const poundUnitOf = (mg: number): 'lb' | 'oz' => (Math.abs(mg) < OUNCES_BELOW ? 'oz' : 'lb');

/** Ounces from which one decimal tells enough, and below which even two do not: a pinch of lecithin is 0.05 oz. */
const ONE_DECIMAL_OZ = 2;
const THREE_DECIMALS_OZ = 0.1;

/** Decimals of a mass in ounces, so that what is weighed in to be stirred in is not off by a tenth. */
function ounceDecimals(mg: number): number {
  const ounces = Number((Math.abs(mg) / MG_PER_OUNCE).toFixed(3));
  if (ounces === 0) return 0;
  return ounces >= ONE_DECIMAL_OZ ? 1 : ounces >= THREE_DECIMALS_OZ ? 2 : 3;
}

/**
 * Writes a mass as a maker reads it: grams below 1 kg (below 10 g with one decimal), kilograms with two decimals, or pounds with two decimals and
 * ounces below one pound with one to three. Rounded for reading; use {@link formatQuantity} where it must read back.
 */
export function formatMass(mg: number, system: 'metric' | 'pounds', locale: NumberLocale = 'en'): string {
  const size = Math.abs(mg);
  if (system === 'pounds') {
    const unit = poundUnitOf(mg);
    return formatQuantity(mg, {
      dimension: 'mass',
      unit,
      locale,
      decimals: unit === 'oz' ? ounceDecimals(mg) : 2,
    });
  }
  if (size < 999_500) {
    const decimals = size < 10_000 && size % 1000 !== 0 ? 1 : 0;
    return formatQuantity(mg, { dimension: 'mass', unit: 'g', locale, decimals });
  }
  const decimals = 2;
  return formatQuantity(mg, { dimension: 'mass', unit: 'kg', locale, decimals });
}

/** Writes seconds as the two largest parts that matter: `2 h 15 min`, `11 min 40 s`, `3 d 4 h`. */
export function formatDuration(
  seconds: number,
  words: { d: string; h: string; min: string; s: string },
): string {
  if (!Number.isFinite(seconds)) throw new RangeError(`a duration must be a number, not ${seconds}`);
  const total = Math.max(0, Math.round(seconds));
  const steps: [number, string][] = [
    [86_400, words.d],
    [3600, words.h],
    [60, words.min],
    [1, words.s],
  ];
  const first = steps.findIndex(([size]) => total >= size);
  if (first < 0) return `0\u00a0${words.s}`;
  const [size, name] = steps[first]!;
  const lead = `${Math.floor(total / size)}\u00a0${name}`;
  const next = steps[first + 1];
  const rest = next ? Math.floor((total % size) / next[0]) : 0;
  return next && rest > 0 ? `${lead} ${rest}\u00a0${next[1]}` : lead;
}
