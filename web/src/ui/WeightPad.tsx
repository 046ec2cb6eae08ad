import { Delete } from 'lucide-react';
import { useEffect, useId, useState, type ReactNode } from 'react';
import type { LiveWeight } from '@wunsch/contract';
import { formatInField, formatQuantity, parseQuantity } from '@wunsch/core/quantity';
import { useDoor } from '../shell/door.tsx';
import { useWords } from '../words/words.tsx';
import { Button } from './Button.tsx';
import { Dialog } from './Dialog.tsx';
import { Doubt } from './Doubt.tsx';
import { massUnitFor, refusal } from './QuantityField.tsx';

/** What the pad is opened for. */
export interface WeightPadProps {
  title: string;
  description?: string;
  /** The verb on the button. */
  action: string;
  /** Plausible masses, mg; a weight above `max` is asked about, not refused for good. */
  min?: number;
  max?: number;
  /** Offered as one tap: all there is. */
  all?: number;
  /** What most of is meant, or a good part, mg: of a number that would be hardly anything of it, it is asked whether its unit is right. */
  bulk?: number;
  /** What it is likely to weigh, mg: stands there at first. A number that is nothing like it, but would be it in another unit, is asked about. */
  initial?: number | null;
  /** What is hard to believe of a weight, said while it stands there; the button then asks for it by name. */
  doubt?: (mg: number) => string | null;
  /** What is asked besides, above the keys. */
  children?: ReactNode;
  onWeight: (mg: number) => Promise<unknown>;
  onClose: () => void;
}

/** The unit one up, in which a large weight is as likely read off a scale. */
const LARGER: Readonly<Record<string, string>> = { g: 'kg', oz: 'lb' };

/** Share of all there is below which a weight is hardly anything of it. */
const LITTLE = 0.02;

/** Times all there is up to which the larger unit is believed. */
const MOST = 2;

/** By how much a weight may be off what was to be expected and still is that weight, as a share. */
const LIKE = 0.15;

/** So many times what was to be expected, or so small a part, is nothing like it: more than lies between a pound and a kilogram. */
const FAR = 4;

/** Of units a number may be in, the one in which it is what was expected, with the weight it then is. */
function unitMeant(
  of: number,
  initial: number | null,
  readIn: (unit: string) => number | null,
  units: readonly string[],
): { value: number; unit: string } | undefined {
  if (initial === null || initial <= 0 || Math.max(of / initial, initial / of) < FAR) return undefined;
  for (const unit of units) {
    const value = readIn(unit);
    if (value !== null && Math.abs(value / initial - 1) <= LIKE) return { value, unit };
  }
  return undefined;
}

/** The large pad for a weight: keys for sticky fingers, and a field that reads any unit. */
export function WeightPad({
  title,
  description,
  action,
  min = 1,
  max,
  all,
  bulk = 0,
  initial = null,
  doubt,
  children,
  onWeight,
  onClose,
}: WeightPadProps) {
  const words = useWords();
  const { t } = words;
  const units =
    words.massUnit === 'lb' ? (['lb', 'oz', 'g', 'kg'] as const) : (['g', 'kg', 'lb', 'oz'] as const);
  const written = (mg: number) => {
    const its = { dimension: 'mass' as const, unit: massUnitFor(mg, words), locale: words.locale };
    return {
      unit: its.unit,
      text: formatInField(mg, its),
      exact: formatQuantity(mg, { ...its, bare: true }),
    };
  };
  // What was suggested, as it was written first: taken as it stands it is that weight, however it is rounded for the eye.
  const [first] = useState(() => (initial === null ? null : written(initial)));
  const [unit, setUnit] = useState<string>(first?.unit ?? units[0]);
  const [text, setText] = useState(first?.text ?? '');
  const stands = first !== null && text === first.text && unit === first.unit ? first.exact : text;
  const [busy, setBusy] = useState(false);
  const [failure, setFailure] = useState<string | null>(null);
  const id = useId();
  const mark = words.locale === 'de' ? ',' : '.';
  const result = parseQuantity(stands, { dimension: 'mass', unit, locale: words.locale, min, max });
  const message =
    failure ?? (!result.ok && result.reason !== 'empty' ? refusal(result, 'mass', words) : null);
  const readIn = (other: string) => {
    const read = parseQuantity(stands, { dimension: 'mass', unit: other, locale: words.locale, min, max });
    return read.ok ? read.value : null;
  };
  const larger = result.ok && result.value < LITTLE * bulk ? LARGER[unit] : undefined;
  const asLarger = larger ? readIn(larger) : null;
  // A unit that was typed along stays what it is; and what would be far more than all of it was not meant either.
  const isLarger = result.ok && asLarger !== null && asLarger > result.value && asLarger <= MOST * bulk;
  const expected = result.ok ? unitMeant(result.value, initial, readIn, units) : undefined;
  const meant = isLarger ? { value: asLarger, unit: larger! } : result.ok ? expected : result.suggestion;
  const little = isLarger
    ? t('weight.little', { mass: words.mass(bulk) })
    : expected
      ? t('weight.unit', { mass: words.mass(initial!) })
      : null;
  const doubted = result.ok ? (doubt?.(result.value) ?? little) : null;
  const save = async () => {
    if (!result.ok || busy) return;
    setBusy(true);
    setFailure(null);
    try {
      await onWeight(result.value);
      onClose();
    } catch (error) {
      setFailure(words.explain(error));
      setBusy(false);
    }
  };
  const key = (k: string) => (
    <button
      key={k}
      type="button"
      onClick={() => {
        setText((s) => s + k);
        setFailure(null);
      }}
      className="num min-h-14 rounded border border-edge bg-panel text-[22px] hover:bg-violet-tint"
    >
      {k}
    </button>
  );
  return (
    <Dialog open onClose={onClose} title={title} description={description}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void save();
        }}
      >
        <label htmlFor={id} className="mb-1 block text-[12.5px] font-medium text-ink-2">
          {t('weight')}
        </label>
        <div className="flex items-baseline gap-2 rounded border-2 border-edge bg-panel-2 px-3 focus-within:border-violet-text">
          <input
            id={id}
            value={text}
            onChange={(e) => {
              setText(e.target.value);
              setFailure(null);
            }}
            autoFocus
            autoComplete="off"
            inputMode="none"
            aria-invalid={message ? true : undefined}
            aria-describedby={`${id}-note`}
            className="num w-full bg-transparent py-2 text-[36px] outline-none"
          />
          <span className="num text-[18px] text-ink-2">{unit}</span>
        </div>
        <div id={`${id}-note`} className="min-h-6 py-1 text-[13px]" role="status">
          {message ? (
            <span className="text-bad">{message}</span>
          ) : result.ok ? (
            <span className="text-ink-2">{`= ${words.mass(result.value)}`}</span>
          ) : (
            <span className="text-ink-3">{t('weight.hint')}</span>
          )}
        </div>
        <Doubt className="mb-2">{doubted}</Doubt>
        {meant && (
          <Button
            className="mb-2"
            onClick={() => {
              setText(
                formatQuantity(meant.value, {
                  dimension: 'mass',
                  unit: meant.unit,
                  locale: words.locale,
                  bare: true,
                }),
              );
              setUnit(meant.unit);
            }}
          >
            {t('quantity.meant', {
              meant: formatQuantity(meant.value, {
                dimension: 'mass',
                unit: meant.unit,
                locale: words.locale,
              }),
            })}
          </Button>
        )}
        {children && <div className="mb-2">{children}</div>}
        <FromScale
          onTake={(mg) => {
            setUnit('g');
            setText(formatQuantity(mg, { dimension: 'mass', unit: 'g', locale: words.locale, bare: true }));
            setFailure(null);
          }}
        />
        <div className="grid grid-cols-4 gap-2">
          {['7', '8', '9'].map(key)}
          <UnitKey units={units} unit={unit} onUnit={setUnit} index={0} />
          {['4', '5', '6'].map(key)}
          <UnitKey units={units} unit={unit} onUnit={setUnit} index={1} />
          {['1', '2', '3'].map(key)}
          <UnitKey units={units} unit={unit} onUnit={setUnit} index={2} />
          {key(mark)}
          {key('0')}
          <button
            type="button"
            aria-label={t('weight.delete')}
            onClick={() => setText((s) => s.slice(0, -1))}
            className="grid min-h-14 place-items-center rounded border border-edge bg-panel hover:bg-violet-tint"
          >
            <Delete size={22} aria-hidden="true" />
          </button>
          <UnitKey units={units} unit={unit} onUnit={setUnit} index={3} />
        </div>
        <div className="mt-3 flex gap-2">
          {all !== undefined && (
            <Button
              onClick={() => {
                setUnit('g');
                setText(
                  formatQuantity(all, { dimension: 'mass', unit: 'g', locale: words.locale, bare: true }),
                );
              }}
            >
              {t('weight.all', { mass: words.mass(all) })}
            </Button>
          )}
          <Button type="submit" look="main" big className="grow" disabled={!result.ok || busy}>
            {doubted && result.ok ? t('weight.doubt.sure', { mass: words.mass(result.value) }) : action}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

/** Older than this a scale's weight is not offered any more, ms. */
const SCALE_FRESH = 15_000;

/** What a scale shows at this moment, taken with one tap once it stands still. */
function FromScale({ onTake }: { onTake: (mg: number) => void }) {
  const words = useWords();
  const [weight, setWeight] = useState<LiveWeight | null>(null);
  const { moments } = useDoor();
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | null = null;
    const stop = moments.on('weight', (next) => {
      setWeight(next);
      if (timer) clearTimeout(timer);
      timer = setTimeout(() => setWeight(null), SCALE_FRESH);
    });
    return () => {
      stop();
      if (timer) clearTimeout(timer);
    };
  }, [moments]);
  if (!weight || weight.massMg <= 0) return null;
  const params = { mass: words.mass(weight.massMg), name: weight.name };
  return (
    <Button className="mb-2 w-full" disabled={!weight.stable} onClick={() => onTake(weight.massMg)}>
      {words.t(weight.stable ? 'scale.take' : 'scale.moving', params)}
    </Button>
  );
}

function UnitKey({
  units,
  unit,
  onUnit,
  index,
}: {
  units: readonly string[];
  unit: string;
  onUnit: (u: string) => void;
  index: number;
}) {
  const mine = units[index]!;
  return (
    <button
      type="button"
      aria-pressed={unit === mine}
      onClick={() => onUnit(mine)}
      className={`min-h-14 rounded border text-[16px] font-semibold ${unit === mine ? 'border-violet bg-violet text-white' : 'border-edge bg-panel hover:bg-violet-tint'}`}
    >
      {mine}
    </button>
  );
}
