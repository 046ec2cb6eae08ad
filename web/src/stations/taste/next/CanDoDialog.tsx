import { useState } from 'react';
import type { WorkshopPut } from '@wunsch/contract';
import { FACTOR_HABITS, type Factor } from '@wunsch/core/dialIn';
import type { Dimension } from '@wunsch/core/quantity';
import { useSession } from '../../../shell/session.tsx';
import { useHabits } from '../../../shell/useHabits.ts';
import { FormDialog } from '../../../ui/FormDialog.tsx';
import { QuantityField } from '../../../ui/QuantityField.tsx';
import { useWords } from '../../../words/words.tsx';
import { factorText } from './factorText.ts';

/** How each factor is typed: its dimension, and how many of what is typed make one of the factor’s own. */
const TYPED = {
  dose: { dimension: 'duration', times: 60 },
  acid: { dimension: 'percent', times: 100 },
  sugar: { dimension: 'percent', times: 1 },
  grit: { dimension: 'length', times: 1 },
  conche: { dimension: 'duration', times: 3600, unit: 'h' },
} as const satisfies Record<Factor, { dimension: Dimension; times: number; unit?: string }>;

type Ends = Partial<Record<Factor, readonly [number | null, number | null]>>;

/** Saying what maker and machines can do, factor by factor; an end left empty is where it stops making sense. */
export function CanDoDialog({
  factors,
  been,
  onClose,
}: {
  factors: readonly Factor[];
  /** From where to where tasted batches have been. */
  been: Partial<Record<Factor, readonly [number, number]>>;
  onClose: () => void;
}) {
  const words = useWords();
  const { t } = words;
  const save = useHabits();
  const { canDo = {} } = useSession().workshop;
  const [ends, setEnds] = useState<Ends>(() => {
    const open = (factor: Factor, value: number, side: 'low' | 'high') =>
      value === FACTOR_HABITS[factor][side] ? null : value;
    return Object.fromEntries(
      Object.entries(canDo).map(([f, [from, to]]) => [
        f,
        [open(f as Factor, from, 'low'), open(f as Factor, to, 'high')],
      ]),
    );
  });
  const rangeOf = (factor: Factor): [number, number] => {
    const { low, high } = FACTOR_HABITS[factor];
    return [ends[factor]?.[0] ?? low, ends[factor]?.[1] ?? high];
  };
  const falls = (factor: Factor) => rangeOf(factor)[0] > rangeOf(factor)[1];
  const keep = () => {
    const kept = factors.filter((f) => ends[f]?.some((end) => end !== null));
    const others = Object.entries(canDo).filter(([f]) => !factors.includes(f as Factor));
    return save({
      canDo: Object.fromEntries([...others, ...kept.map((f) => [f, rangeOf(f)])]) as WorkshopPut['canDo'],
    });
  };
  return (
    <FormDialog
      title={t('next.can')}
      description={t('next.can.text')}
      submit={t('next.can.keep')}
      isReady={!factors.some(falls)}
      onSubmit={keep}
      onClose={onClose}
      wide
    >
      {factors.map((factor) => {
        const { dimension, times, unit }: { dimension: Dimension; times: number; unit?: string } =
          TYPED[factor];
        const { low, high } = FACTOR_HABITS[factor];
        const [from, to] = ends[factor] ?? [null, null];
        const field = (side: 'from' | 'to', value: number | null) => (
          <QuantityField
            label={t(`next.can.${side}`)}
            dimension={dimension}
            unit={unit}
            value={value === null ? null : value * times}
            onChange={(typed) => {
              const end = typed === null ? null : typed / times;
              setEnds({ ...ends, [factor]: side === 'from' ? [end, to] : [from, end] });
            }}
            min={low * times}
            max={high * times}
            error={side === 'to' && falls(factor) ? t('next.can.falls') : null}
            optional
          />
        );
        const known = been[factor];
        return (
          <fieldset key={factor} className="border-t border-line pt-2">
            <legend className="pr-2 text-[14px] font-semibold">{t(`next.factor.${factor}`)}</legend>
            <div className="grid gap-3 sm:grid-cols-2">
              {field('from', from)}
              {field('to', to)}
            </div>
            {known && (
              <p className="mt-1 text-[12.5px] text-ink-3">
                {t('next.can.been', {
                  low: factorText(factor, known[0], words),
                  high: factorText(factor, known[1], words),
                })}
              </p>
            )}
          </fieldset>
        );
      })}
    </FormDialog>
  );
}
