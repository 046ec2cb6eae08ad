import { useState } from 'react';
import type { BatchView, StepRecord } from '@wunsch/contract';
import { Button } from '../../ui/Button.tsx';
import { SelectField } from '../../ui/Field.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { WeightPad } from '../../ui/WeightPad.tsx';
import { useWords } from '../../words/words.tsx';
import { useIngredients } from '../recipe/index.ts';
import { linesOf, useWork } from '../work.ts';
import { useFillings } from './useFillings.ts';

/** What was laid or filled in at a moulding: ingredients off the shelf and fillings made here, mg. */
export function laidInMg(view: BatchView, step: StepRecord): number {
  return linesOf(view, step.id)
    .filter((m) => m.direction === 'in' && (m.ingredientId !== null || m.material === 'filling'))
    .reduce((sum, m) => sum + m.massMg, 0);
}

/** Nuts, fruit, salt, or a filling made here: weighed in; a part with something in it is bars of their own, with their own label. */
export function LaidIn({
  view,
  step,
  title,
  bowlMg,
  percent,
  onPercent,
  wantedMg = null,
  withFillings = false,
}: {
  view: BatchView;
  step: StepRecord;
  title: string;
  /** Chocolate in the moulding, mg. */
  bowlMg: number;
  /** Wanted share of a bar, %; null where only a weight is asked. */
  percent?: number | null;
  onPercent?: (percent: number | null) => void;
  /** What is to go in, where it is planned as a weight, mg. */
  wantedMg?: number | null;
  /** Whether fillings on hand may go in. */
  withFillings?: boolean;
}) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const ingredients = useIngredients();
  const [id, setId] = useState('');
  const [open, setOpen] = useState(false);
  const list = [...ingredients.values()].filter((i) => i.cacao === 'none');
  const fillings = (useFillings() ?? []).filter((f) => withFillings && f.leftMg > 0 && !f.onHold);
  const filling = fillings.find((f) => f.parcelId === id);
  const ingredient = ingredients.get(id);
  const chosen = filling?.name ?? (ingredient && words.word('ingredient', ingredient.name));
  // A share of the whole bar: m / (chocolate + m).
  const neededMg = percent ? Math.round((bowlMg * percent) / (100 - percent)) : wantedMg;
  const there = laidInMg(view, step);
  const toGo = neededMg === null ? null : Math.max(0, neededMg - there);
  return (
    <div className="grid gap-2">
      <div className="flex flex-wrap items-end gap-2">
        <SelectField label={title} value={id} onChange={(e) => setId(e.target.value)} className="min-w-44">
          <option value="">{t('laid-in.none')}</option>
          {fillings.length > 0 && (
            <optgroup label={t('fillings.there')}>
              {fillings.map((f) => (
                <option key={f.parcelId} value={f.parcelId}>
                  {f.name} · {words.mass(f.leftMg)}
                </option>
              ))}
            </optgroup>
          )}
          <optgroup label={t('filling.shelf')}>
            {list.map((i) => (
              <option key={i.id} value={i.id}>
                {words.word('ingredient', i.name)}
              </option>
            ))}
          </optgroup>
        </SelectField>
        {onPercent && chosen && (
          <QuantityField
            label={t('laid-in.share')}
            dimension="percent"
            value={percent ?? null}
            onChange={onPercent}
            min={0.1}
            max={80}
            optional
            className="w-32"
          />
        )}
        <Button onClick={() => setOpen(true)} disabled={!chosen}>
          {t('laid-in.weigh')}
        </Button>
      </div>
      {chosen && toGo !== null && toGo > 0 && (
        <p className="text-[13px] text-ink-2">
          {t('laid-in.needs', { mass: words.mass(toGo), what: chosen })}
        </p>
      )}
      {open && chosen && (
        <WeightPad
          title={chosen}
          action={t('weigh.this', { what: chosen })}
          max={filling?.leftMg ?? 200_000_000}
          onWeight={(mg) =>
            filling
              ? work.take(
                  step.id,
                  { id: filling.parcelId, material: 'filling', remainingMg: filling.leftMg },
                  mg,
                )
              : work.add(step.id, ingredient!, mg)
          }
          onClose={() => setOpen(false)}
        />
      )}
    </div>
  );
}
