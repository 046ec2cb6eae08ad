import { Delete } from 'lucide-react';
import { useState } from 'react';
import { fillControl } from '@wunsch/core/mould';
import { unitOf } from '@wunsch/core/quantity';
import { SeriesChart } from '../../charts/SeriesChart.tsx';
import { Button } from '../../ui/Button.tsx';
import { Chip, Figure, Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import type { FillWeights } from './useFillWeights.ts';

/** Fewer bars than this say little of the spread. */
const ENOUGH = 5;

/** A change of the fill smaller than this is not worth a tap, mg. */
const WORTH_A_TAP = 100;

/** Weighing single bars while they are filled: run chart, mean, spread, how many are short by the rule, and what to change. */
export function FillPanel({
  weighed,
  nominalMg,
  pricePerKg,
}: {
  weighed: FillWeights;
  nominalMg: number;
  /** What a kilogram of this chocolate costs, minor units; null where it is not known. */
  pricePerKg: number | null;
}) {
  const words = useWords();
  const { t } = words;
  const [weight, setWeight] = useState<number | null>(null);
  const [nth, setNth] = useState(0);
  const { weights, changes } = weighed;
  // What was filled before the ladle was changed says nothing of how it fills now.
  const since = changes.at(-1) ?? 0;
  const current = weights.slice(since);
  const control = current.length > 0 ? fillControl(current, nominalMg) : null;
  const changed = since > 0 && since === weights.length;
  const fine = words.fineMass;
  const unitMg = unitOf('mass', words.fineUnit).scale;
  const add = () => {
    if (weight === null) return;
    weighed.set([...weights, weight], changes);
    setWeight(null);
    setNth(nth + 1);
  };
  const short = control?.shortShare;
  return (
    <Panel title={t('fill')} aside={t('fill.hint')}>
      <form
        className="flex flex-wrap items-end gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          add();
        }}
      >
        <QuantityField
          key={nth}
          label={t('fill.weight', { n: weights.length + 1 })}
          dimension="mass"
          value={weight}
          onChange={setWeight}
          min={nominalMg / 4}
          max={nominalMg * 3}
          optional
          autoFocus={nth > 0}
          className="w-44"
        />
        <Button type="submit" disabled={weight === null}>
          {t('fill.add')}
        </Button>
        {weights.length > 0 && (
          <Button
            look="quiet"
            icon={<Delete size={17} aria-hidden="true" />}
            onClick={() =>
              weighed.set(
                weights.slice(0, -1),
                changes.filter((c) => c < weights.length - 1),
              )
            }
          >
            {t('fill.back')}
          </Button>
        )}
        {weights.length > since && (
          <Button onClick={() => weighed.set(weights, [...changes, weights.length])}>
            {t('fill.change')}
          </Button>
        )}
      </form>
      {changed && <p className="mt-3 text-[13.5px] text-ink-2">{t('fill.changed')}</p>}
      {control && since > 0 && (
        <p className="mt-3 text-[12.5px] text-ink-3">{t('fill.since', { n: since + 1 })}</p>
      )}
      {control && (
        <>
          <p className="mt-3 flex flex-wrap items-center gap-2" data-testid="fill-verdict">
            <Chip tone={control.verdict === 'good' ? 'ok' : 'bad'}>{t(`fill.${control.verdict}`)}</Chip>
            {control.count >= ENOUGH && Math.abs(control.changeMg) >= WORTH_A_TAP && (
              <strong>
                {t(control.changeMg < 0 ? 'fill.less' : 'fill.more', {
                  mass: fine(Math.abs(control.changeMg)),
                })}
              </strong>
            )}
          </p>
          <div className="mt-3 grid grid-cols-2 gap-3 sm:grid-cols-4">
            <Figure name={t('fill.mean')}>{fine(control.meanMg)}</Figure>
            <Figure name={t('fill.sd')}>{control.count < 2 ? '—' : fine(control.sdMg)}</Figure>
            <Figure
              name={t('fill.short', { mass: control.tolerableMg === null ? '—' : fine(control.tolerableMg) })}
              note={
                short
                  ? t('fill.range', { low: words.percent(short.low, 0), high: words.percent(short.high, 0) })
                  : undefined
              }
            >
              {t('fill.of', { n: control.short, of: control.count })}
              {control.farShort > 0 && (
                <span className="block text-[12.5px] text-bad">
                  ▲ {t('fill.far', { n: control.farShort, mass: fine(2 * control.tolerableMg!) })}
                </span>
              )}
            </Figure>
            <Figure
              name={t('fill.give-away')}
              note={
                pricePerKg !== null && control.giveAwayMg > 0
                  ? t('fill.money', { money: words.money((control.giveAwayMg / 1e6) * pricePerKg * 100) })
                  : undefined
              }
            >
              {fine(control.giveAwayMg)}
            </Figure>
          </div>
          <SeriesChart
            label={t('fill')}
            height={200}
            xTitle={t('fill.bar')}
            yTitle={words.fineUnit}
            xFormat={(x) => words.number(x, 0)}
            yFormat={(y) => words.number(y, words.fineUnit === 'oz' ? 2 : 1)}
            usual={{ x: [0, 10] }}
            counted
            aim={{ y: nominalMg / unitMg, name: t('fill.nominal') }}
            series={[
              {
                name: t('fill.bars'),
                points: weights.map((w, i): [number, number] => [i + 1, w / unitMg]),
                look: 'points',
              },
              ...changes
                .filter((c) => c < weights.length)
                .map((c) => ({
                  name: t('fill.change.drawn'),
                  points: [
                    [c + 0.5, Math.min(...weights) / unitMg],
                    [c + 0.5, Math.max(...weights) / unitMg],
                  ] as [number, number][],
                  look: 'planned' as const,
                })),
              ...(control.tolerableMg === null
                ? []
                : [
                    {
                      name: t('fill.limit'),
                      points: Array.from(
                        { length: Math.max(10, weights.length) + 1 },
                        (_, x): [number, number] => [x, (nominalMg - control.tolerableMg!) / unitMg],
                      ),
                      look: 'planned' as const,
                    },
                  ]),
            ]}
          />
          <Button onClick={() => void weighed.keep(nominalMg).catch(() => undefined)}>
            {t('fill.save', { n: weights.length })}
          </Button>
        </>
      )}
      <p className="mt-2 text-[12px] text-ink-3">{t('fill.rule')}</p>
    </Panel>
  );
}
