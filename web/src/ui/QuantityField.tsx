import { useEffect, useLayoutEffect, useRef, useState, type ReactNode, type RefObject } from 'react';
import {
  currencySign,
  formatInField,
  formatMoney,
  formatQuantity,
  parseMoney,
  parseQuantity,
  poundUnitOf,
  unitOf,
  type Dimension,
  type ParseResult,
} from '@wunsch/core/quantity';
import { useWords, type Words } from '../words/words.tsx';
import { Field } from './Field.tsx';

/** The words for a refused entry. */
export function refusal(
  result: Extract<ParseResult, { ok: false }>,
  dimension: Dimension,
  words: Words,
): string {
  const show = (value: number, unit: string) =>
    formatQuantity(value, { dimension, unit, locale: words.locale });
  const home =
    dimension === 'mass' ? words.massUnit : dimension === 'temperature' ? words.temperatureUnit : null;
  if (result.reason === 'out-of-range') {
    const unit = result.suggestion?.unit === home || !home ? (home ?? '') : home;
    const bound = (value: number | undefined) =>
      value === undefined
        ? ''
        : dimension === 'mass'
          ? words.mass(value)
          : formatQuantity(value, {
              dimension,
              unit: unit || undefinedUnit(dimension),
              locale: words.locale,
              decimals: dimension === 'temperature' ? 0 : undefined,
            });
    const bounds = { text: result.text, min: bound(result.min), max: bound(result.max) };
    if (result.min === undefined) return words.t('quantity.at-most', bounds);
    if (result.max === undefined) return words.t('quantity.at-least', bounds);
    return words.t('quantity.out-of-range', bounds);
  }
  if (result.reason === 'unknown-unit')
    return words.t('quantity.unknown-unit', { units: (result.units ?? []).join(', ') });
  if (result.reason === 'wrong-decimal-mark' && result.suggestion)
    return words.t('quantity.wrong-decimal-mark', {
      meant: show(result.suggestion.value, result.suggestion.unit),
    });
  return words.t(`quantity.${result.reason}`);
}

function undefinedUnit(dimension: Dimension): string {
  return {
    mass: 'g',
    temperature: '°C',
    duration: 'min',
    length: 'µm',
    percent: '%',
    humidity: '%',
    count: '',
    number: '',
  }[dimension];
}

/** The unit in which a mass is typed that is about as large: of pounds and ounces the one that fits. */
export function massUnitFor(mg: number, words: Words): Words['massUnit'] {
  return words.massUnit === 'lb' ? poundUnitOf(mg) : words.massUnit;
}

/** What a quantity field needs. `value` is the stored value, null while empty or not understood. */
export interface QuantityFieldProps {
  label: ReactNode;
  dimension: Dimension;
  unit?: string;
  value: number | null;
  onChange: (value: number | null) => void;
  min?: number;
  max?: number;
  hint?: ReactNode;
  error?: string | null;
  autoFocus?: boolean;
  className?: string;
  optional?: boolean;
  placeholder?: string;
}

/** Digits in which a number is repeated in another unit: as many as a slip needs to be seen by. */
const DIGITS = 3;

/** Decimals that give a number {@link DIGITS} digits, none where it has as many before the mark. */
const decimalsOf = (amount: number): number =>
  amount === 0 ? 0 : Math.max(0, DIGITS - 1 - Math.floor(Math.log10(Math.abs(amount))));

/** A field that reads what a maker types, in any unit, says how it was read, and asks where it makes no sense. */
export function QuantityField({
  label,
  dimension,
  unit,
  value,
  onChange,
  min,
  max,
  hint,
  error,
  autoFocus,
  className,
  optional = false,
  placeholder,
}: QuantityFieldProps) {
  const words = useWords();
  const unitFor = (v: number | null) =>
    unit ??
    (dimension === 'mass'
      ? massUnitFor(v ?? max ?? Infinity, words)
      : dimension === 'temperature'
        ? words.temperatureUnit
        : undefinedUnit(dimension));
  const write = (v: number | null) => {
    const its = unitFor(v);
    const text = v === null ? '' : formatInField(v, { dimension, unit: its, locale: words.locale });
    return { text, unit: its, of: v };
  };
  // What stands here, the unit it is in, and the value it was written from; null where it was typed.
  const [{ text, unit: fieldUnit, of }, setStands] = useState(() => write(value));
  const [touched, setTouched] = useState(false);
  const usual = unitFor(null);
  const [usualThen, setUsualThen] = useState(usual);
  // Other units were chosen meanwhile.
  if (usualThen !== usual) {
    setUsualThen(usual);
    setStands(value === null ? { text, unit: usual, of: null } : write(value));
  }
  // What is being typed and makes no sense stays until it does: whoever holds the value may put what is usual in its place meanwhile.
  const isTyping = useRef(false);
  const box = useRef<HTMLInputElement>(null);
  const replacesAll = useRef(false);
  const options = { dimension, unit: fieldUnit, locale: words.locale, min, max };
  const read = (what: string) => parseQuantity(what, options);
  // What was written from a value may be rounded for the eye; it is the value that counts.
  const result = read(
    of === null ? text : formatQuantity(of, { dimension, unit: fieldUnit, locale: words.locale, bare: true }),
  );
  useEffect(() => {
    if (isTyping.current && !result.ok) return;
    if (value === (result.ok ? result.value : null)) return;
    replacesAll.current = isAllChosen(box.current);
    setStands(write(value));
    if (value === null) setTouched(false);
    // The text follows a value set from outside; typing is handled below.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [value]);
  // How much is there may be known only after it was typed: what is then within bounds is taken, and what no longer is, is not.
  useEffect(() => {
    if (of !== null || text.trim() === '') return;
    const now = result.ok ? result.value : null;
    if (now !== value) onChange(now);
    // Asked when the bounds change; typing is handled below.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [min, max]);
  const type = (next: string) => {
    setStands({ text: next, unit: fieldUnit, of: null });
    isTyping.current = true;
    const now = read(next);
    onChange(now.ok ? now.value : null);
  };
  const suggestion = !result.ok ? result.suggestion : undefined;
  const wrong =
    !result.ok &&
    !(result.reason === 'empty') &&
    (touched || result.reason === 'out-of-range' || result.reason === 'unknown-unit');
  const shownError =
    error ??
    (wrong
      ? refusal(result, dimension, words)
      : touched && !optional && !result.ok
        ? words.t('quantity.empty')
        : null);
  useBlocking(box, wrong ? shownError : null);
  // Whoever was about to type over what stood here types over what stands here now.
  useLayoutEffect(() => {
    if (replacesAll.current) box.current?.select();
    replacesAll.current = false;
  }, [box, text]);
  const other =
    result.ok && result.unit !== fieldUnit
      ? formatQuantity(result.value, {
          dimension,
          unit: fieldUnit,
          locale: words.locale,
          decimals:
            dimension === 'temperature' ? 1 : decimalsOf(result.value / unitOf(dimension, fieldUnit).scale),
        })
      : null;
  return (
    <Field label={label} error={shownError} hint={other ? `= ${other}` : hint} className={className}>
      {({ id, describedBy, invalid }) => (
        <>
          <div className="relative">
            <input
              ref={box}
              id={id}
              value={text}
              onChange={(e) => type(e.target.value)}
              onBlur={() => {
                isTyping.current = false;
                // Emptied where nothing cannot be, it shows again what holds.
                if (text.trim() === '' && value !== null) setStands(write(value));
                setTouched(text !== '');
              }}
              aria-describedby={describedBy}
              aria-invalid={invalid || undefined}
              inputMode={dimension === 'count' ? 'numeric' : 'text'}
              autoComplete="off"
              placeholder={placeholder}
              // A field opened for one entry takes the focus at once.
              autoFocus={autoFocus}
              className="num min-h-11 w-full rounded border border-edge bg-panel pl-3 pr-12 text-[17px] text-ink aria-invalid:border-bad"
            />
            <UnitSign>{fieldUnit}</UnitSign>
          </div>
          {suggestion && (
            <button
              type="button"
              className="mt-1 min-h-11 rounded border border-edge px-3 text-[13.5px] font-semibold hover:bg-violet-tint"
              onClick={() => {
                const meant = { dimension, unit: suggestion.unit, locale: words.locale };
                setStands({ text: formatQuantity(suggestion.value, meant), unit: fieldUnit, of: null });
                onChange(suggestion.value);
              }}
            >
              {words.t('quantity.did-you-mean', {
                meant: formatQuantity(suggestion.value, {
                  dimension,
                  unit: suggestion.unit,
                  locale: words.locale,
                }),
                same:
                  suggestion.unit === fieldUnit
                    ? ''
                    : `= ${formatQuantity(suggestion.value, { dimension, unit: fieldUnit, locale: words.locale, decimals: dimension === 'mass' ? undefined : 0 })}`,
              })}
            </button>
          )}
        </>
      )}
    </Field>
  );
}

/** The unit at the right end of a field. */
function UnitSign({ children }: { children: ReactNode }) {
  return (
    <span
      className="pointer-events-none absolute inset-y-0 right-3 grid place-items-center text-[13px] text-ink-3"
      aria-hidden="true"
    >
      {children}
    </span>
  );
}

/** Keeps the form of a box from being sent while what stands in it makes no sense; it is said why. */
function useBlocking(box: RefObject<HTMLInputElement | null>, why: string | null) {
  useEffect(() => box.current?.setCustomValidity(why ?? ''), [box, why]);
}

/** Whether a box is in hand with all that stands in it chosen, or nothing standing in it, so that what is typed next takes its place. */
const isAllChosen = (box: HTMLInputElement | null): boolean =>
  box !== null &&
  document.activeElement === box &&
  box.selectionStart === 0 &&
  box.selectionEnd === box.value.length;

/** A field for money in the workshop's currency; `value` is minor units. */
export function MoneyField({
  label,
  value,
  onChange,
  hint,
}: {
  label: string;
  value: number;
  onChange: (minor: number) => void;
  hint?: string;
}) {
  const words = useWords();
  const [text, setText] = useState(value ? formatMoney(value, words.currency, words.locale) : '');
  const read = parseMoney(text, words.currency, words.locale);
  const error =
    !read.ok && read.reason !== 'empty' ? words.t(`quantity.${read.reason}`, { meant: '' }) : null;
  const box = useRef<HTMLInputElement>(null);
  useBlocking(box, error);
  const sign = currencySign(words.currency);
  const shown = read.ok ? read.value : 0;
  useEffect(() => {
    if (value !== shown) setText(value ? formatMoney(value, words.currency, words.locale) : '');
    // The text follows a value set from outside, such as the usual price of what was chosen.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [value]);
  return (
    <Field label={label} error={error} hint={hint}>
      {({ id, describedBy, invalid }) => (
        <div className="relative">
          <input
            ref={box}
            id={id}
            value={text}
            inputMode="decimal"
            autoComplete="off"
            aria-describedby={describedBy}
            aria-invalid={invalid || undefined}
            className="num min-h-11 w-full rounded border border-edge bg-panel pl-3 pr-9 text-[17px]"
            onChange={(e) => {
              setText(e.target.value);
              const next = parseMoney(e.target.value, words.currency, words.locale);
              onChange(next.ok ? next.value : 0);
            }}
          />
          {!text.includes(sign) && <UnitSign>{sign}</UnitSign>}
        </div>
      )}
    </Field>
  );
}
