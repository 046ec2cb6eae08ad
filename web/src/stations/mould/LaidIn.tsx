import { useState } from 'react';
import type { BatchView, StepRecord } from '@wunsch/contract';
import { Button } from '../../ui/Button.tsx';
import { SelectField } from '../../ui/Field.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { WeightPad } from '../../ui/WeightPad.tsx';
import { useWords } from '../../words/words.tsx';
import { useIngredients } from '../recipe/index.ts';
import { linesOf, useWork } from '../work.ts';

/** What was laid or filled in at a moulding: ingredients off the shelf, mg. */
export function laidInMg(view: BatchView, step: StepRecord): number {
  return linesOf(view, step.id)
    .filter((m) => m.direction === 'in' && m.ingredientId !== null)
    .reduce((sum, m) => sum + m.massMg, 0);
}

/** Nuts, fruit, salt, or a filling: weighed in off the shelf; a part with something in it is bars of their own, with their own label. */
export function LaidIn({
  view,
  step,
  title,
  bowlMg,
  percent,
  onPercent,
}: {
  view: BatchView;
  step: StepRecord;
  title: string;
  /** Chocolate in the moulding, mg. */
  bowlMg: number;
  /** Wanted share of a bar, %; null where only a weight is asked. */
  percent?: number | null;
  onPercent?: (percent: number | null) => void;
}) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const ingredients = useIngredients();
  const [id, setId] = useState('');
  const [open, setOpen] = useState(false);
  const list = [...ingredients.values()].filter((i) => i.cacao === 'none');
  const chosen = ingredients.get(id);
  // A share of the whole bar: m / (chocolate + m).
  const neededMg = percent ? Math.round((bowlMg * percent) / (100 - percent)) : null;
  const there = laidInMg(view, step);
  const toGo = neededMg === null ? null : Math.max(0, neededMg - there);
  return (
    <div className="grid gap-2">
      <div className="flex flex-wrap items-end gap-2">
        <SelectField label={title} value={id} onChange={(e) => setId(e.target.value)} className="min-w-44">
          <option value="">{t('laid-in.none')}</option>
          {list.map((i) => (
            <option key={i.id} value={i.id}>
              {words.word('ingredient', i.name)}
            </option>
          ))}
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
          {t('laid-in.needs', { mass: words.mass(toGo), what: words.word('ingredient', chosen.name) })}
        </p>
      )}
      {open && chosen && (
        <WeightPad
          title={words.word('ingredient', chosen.name)}
          action={t('weigh.this', { what: words.word('ingredient', chosen.name) })}
          max={200_000_000}
          onWeight={(mg) => work.add(step.id, chosen, mg)}
          onClose={() => setOpen(false)}
        />
      )}
    </div>
  );
}
