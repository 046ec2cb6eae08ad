import { readNumber, type NumberLocale } from './number.ts';
import { DIMENSIONS, toGrain, unitOf, type Dimension, type Unit } from './units.ts';

/** What a field expects. */
export interface ParseOptions {
  dimension: Dimension;
  /** Unit of a bare number, e.g. `g`, `°F`, `min`. */
  unit: string;
  locale?: NumberLocale;
  /** Smallest and largest plausible stored value, both included. Outside it the entry is asked about. */
  min?: number;
  max?: number;
}

/** Another reading of the same text that would be plausible; offered, never taken silently. */
export interface Suggestion {
  /** Stored value. */
  value: number;
  /** Unit the suggestion reads the text in. */
  unit: string;
}

/** Why an entry is refused. The interface turns the code into words. */
export type RefusalReason =
  | 'empty'
  | 'not-a-number'
  | 'wrong-decimal-mark'
  | 'unknown-unit'
  | 'negative'
  | 'below-grain'
  | 'unit-order'
  | 'part-too-large'
  | 'out-of-range';

/** An entry understood, in the stored unit, or refused with the reason and, where there is one, a likely meaning. */
export type ParseResult =
  | { ok: true; value: number; unit: string }
  | {
      ok: false;
      reason: RefusalReason;
      text: string;
      units?: string[];
      min?: number;
      max?: number;
      suggestion?: Suggestion;
    };

interface Part {
  amount: string;
  unit: string;
}

/** Nothing is colder, °C. */
const ABSOLUTE_ZERO_C = -273.15;

/** Largest stored mass: 1,000 t in mg. Sums of a workshop's life stay far inside the exact integers. */
const LARGEST = 1e15;

function findUnit(dimension: Dimension, word: string): Unit | undefined {
  const wanted = word.trim().toLowerCase().replace(/\.$/, '').replace(/^°\s+/, '°');
  return DIMENSIONS[dimension].units.find(
    (u) => u.spellings.includes(wanted) || u.symbol.toLowerCase() === wanted,
  );
}

function splitParts(text: string): Part[] | null {
  const parts: Part[] = [];
  const pattern =
    /\s*((?:\d|[.,](?=\d))(?:[\d.,]|[\s\u00a0\u202f\u2009'’](?=\d{3}(?!\d)))*)\s*([^\d\s.,+\-−:][^\d:+\-−]*)?/y;
  let at = 0;
  while (at < text.length) {
    pattern.lastIndex = at;
    const match = pattern.exec(text);
    if (!match || match[0].length === 0) return null;
    parts.push({ amount: match[1] ?? '', unit: (match[2] ?? '').trim() });
    at = pattern.lastIndex;
  }
  return parts.length > 0 ? parts : null;
}

/** `1:30` and `0:05:20`: hours first when the field counts in h or days, minutes first otherwise. */
function clockSeconds(text: string, unit: string): number | null | 'part-too-large' {
  const match = /^(\d+):(\d{2})(?::(\d{2}))?$/.exec(text);
  if (!match) return null;
  const [a, b] = [Number(match[1]), Number(match[2])];
  const c = match[3] === undefined ? undefined : Number(match[3]);
  if (b > 59 || (c ?? 0) > 59) return 'part-too-large';
  if (c !== undefined) return a * 3600 + b * 60 + c;
  return unit === 'h' || unit === 'd' ? a * 3600 + b * 60 : a * 60 + b;
}

/**
 * Reads what a maker typed into a field and returns it in the stored unit.
 *
 * Accepts units after the number, compound entries (`5lb 4oz`, `2h15`), clock times for durations
 * (`1:30` is hours and minutes in a field that counts hours, minutes and seconds in one that counts
 * minutes), grouping and the decimal mark of the locale. A bare number takes the field's unit. What lies
 * outside `min`–`max` is refused with the reading that would fit, so a °F typed into a °C field is asked about.
 *
 * @returns a stored value rounded to the dimension's grain, or a refusal; never throws on text
 * @throws RangeError when `unit` is not one of the dimension's
 * @example parseQuantity('5lb 4oz', { dimension: 'mass', unit: 'g' }) // { ok: true, value: 2381360, unit: 'lb' }
 */
export function parseQuantity(input: string, options: ParseOptions): ParseResult {
  const { dimension, unit, locale = 'en' } = options;
  const spec = DIMENSIONS[dimension];
  const fieldUnit = unitOf(dimension, unit);
  const text = input.trim().replace(/\u2212/g, '-');
  const refuse = (reason: RefusalReason, extra: object = {}): ParseResult => ({
    ok: false,
    reason,
    text: input.trim(),
    ...extra,
  });
  if (text === '') return refuse('empty');

  const sign = text.startsWith('-') ? -1 : 1;
  const unsigned = text.replace(/^[+-]\s*/, '');
  if (dimension === 'duration' && unsigned.includes(':')) {
    const seconds = clockSeconds(unsigned, unit);
    if (seconds === null) return refuse('not-a-number');
    if (seconds === 'part-too-large') return refuse('part-too-large');
    if (sign < 0) return refuse('negative');
    return inRange(seconds, unit === 'd' ? 'h' : unit, options, refuse);
  }
  const parts = splitParts(unsigned);
  if (!parts) return refuse('not-a-number');

  const read: { amount: number; unit: Unit }[] = [];
  for (const [index, part] of parts.entries()) {
    const known =
      part.unit === '' ? bareUnit(dimension, fieldUnit, read, parts.length) : findUnit(dimension, part.unit);
    if (known === 'not-a-number') return refuse('not-a-number');
    if (!known) return refuse('unknown-unit', { units: spec.units.map((u) => u.id).filter(Boolean) });
    const number = readNumber(part.amount, locale);
    if (!number.ok) {
      if (number.reason === 'wrong-decimal-mark' && parts.length === 1) {
        const value = toGrain(dimension, sign * number.meant * known.scale + known.offset);
        return refuse('wrong-decimal-mark', { suggestion: { value, unit: known.id } });
      }
      return refuse('not-a-number');
    }
    if (index > 0) {
      const before = read[index - 1]!;
      const chain = spec.compound.find((c) => c.includes(before.unit.id) && c.includes(known.id));
      if (!chain || chain.indexOf(known.id) <= chain.indexOf(before.unit.id)) return refuse('unit-order');
      if (!Number.isInteger(before.amount)) return refuse('unit-order');
      if (number.value * known.scale >= before.unit.scale) return refuse('part-too-large');
    }
    read.push({ amount: number.value, unit: known });
  }
  if (sign < 0 && !spec.signed) return refuse('negative');
  const first = read[0]!;
  const exact = read.reduce((sum, p) => sum + p.amount * p.unit.scale, 0) * sign + first.unit.offset;
  if (!Number.isFinite(exact) || Math.abs(exact) > LARGEST) return refuse('not-a-number');
  if (dimension === 'count' && !Number.isInteger(exact)) return refuse('not-a-number');
  const value = toGrain(dimension, exact);
  if (value === 0 && exact !== 0 && !spec.signed) return refuse('below-grain');
  return inRange(value, first.unit.id, options, refuse);
}

function bareUnit(
  dimension: Dimension,
  fieldUnit: Unit,
  read: readonly { unit: Unit }[],
  count: number,
): Unit | 'not-a-number' {
  if (count === 1) return fieldUnit;
  const before = read[read.length - 1];
  if (!before) return 'not-a-number';
  // `2h15` and `5lb 4`: a bare last part takes the next smaller unit.
  for (const chain of DIMENSIONS[dimension].compound) {
    const next = chain[chain.indexOf(before.unit.id) + 1];
    if (chain.includes(before.unit.id) && next) return unitOf(dimension, next);
  }
  return 'not-a-number';
}

function inRange(
  value: number,
  unit: string,
  options: ParseOptions,
  refuse: (reason: RefusalReason, extra?: object) => ParseResult,
): ParseResult {
  const { dimension, max = Infinity } = options;
  const min = Math.max(options.min ?? -Infinity, dimension === 'temperature' ? ABSOLUTE_ZERO_C : -Infinity);
  if (value >= min && value <= max) return { ok: true, value, unit };
  const spec = DIMENSIONS[dimension];
  const written = unitOf(dimension, unit);
  const amount = (value - written.offset) / written.scale;
  const other = spec.units
    .filter((u) => u.id !== unit && u.id !== 'mil')
    .map((u) => ({ value: toGrain(dimension, amount * u.scale + u.offset), unit: u.id }))
    .find((s) => s.value >= min && s.value <= max);
  const bounds = { min: Number.isFinite(min) ? min : undefined, max: options.max };
  return refuse('out-of-range', other ? { ...bounds, suggestion: other } : bounds);
}
