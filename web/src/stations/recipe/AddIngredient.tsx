import { useState } from 'react';
import type { BatchView, IngredientRecord, StepRecord } from '@wunsch/contract';
import { dryEquivalent, isBulk, seizes } from '@wunsch/core/recipe';
import { Button } from '../../ui/Button.tsx';
import { SelectField } from '../../ui/Field.tsx';
import { WeightPad } from '../../ui/WeightPad.tsx';
import { useWords } from '../../words/words.tsx';
import { balanceOf, useWork } from '../work.ts';
import { KitchenMeasure } from './KitchenMeasure.tsx';
import { useIngredients } from './useIngredients.ts';

/** Any ingredient, weighed into an open step; used at the recipe and at the grinder. What makes chocolate seize is stopped at, and the dry one offered. */
export function AddIngredient({
  view,
  step,
  suggest,
}: {
  view: BatchView;
  step: StepRecord;
  suggest?: IngredientRecord;
}) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const ingredients = useIngredients();
  const [id, setId] = useState<string | null>(null);
  const [open, setOpen] = useState(false);
  const [meant, setMeant] = useState<string | null>(null);
  // Nibs come out of a lot or the winnower; liquor may have been delivered like sugar.
  const list = [...ingredients.values()].filter((i) => i.cacao !== 'bean' || i.onHandMg !== null);
  const chosen =
    ingredients.get(id ?? '') ?? suggest ?? list.find((i) => i.key === 'cocoa-butter') ?? list[0];
  const wet = chosen !== undefined && seizes(chosen);
  const dry = wet ? list.find((i) => i.key === dryEquivalent(chosen.name)) : undefined;
  const stopped = wet && meant !== chosen.id;
  return (
    <div>
      <div className="flex flex-wrap items-end gap-2">
        <SelectField
          label={t('recipe.other')}
          value={chosen?.id ?? ''}
          onChange={(e) => setId(e.target.value)}
          className="min-w-48"
        >
          {list.map((i) => (
            <option key={i.id} value={i.id}>
              {words.word('ingredient', i.name)}
            </option>
          ))}
        </SelectField>
        <Button onClick={() => setOpen(true)} disabled={!chosen || stopped}>
          {t('recipe.weigh-other')}
        </Button>
        {!stopped && (
          <KitchenMeasure
            ingredient={chosen}
            onMass={(mg, uMg) =>
              void work.add(step.id, chosen!, mg, { source: 'estimated', uMg }).catch(() => undefined)
            }
          />
        )}
      </div>
      {stopped && (
        <div role="alert" className="mt-2 rounded border border-bad bg-bad-tint p-3">
          <p className="font-semibold text-bad">
            ▲{' '}
            {t('note.seizes', {
              what: words.word('ingredient', chosen.name),
              water: words.number(chosen.composition.water),
            })}
          </p>
          <div className="mt-2 flex flex-wrap gap-2">
            {dry && (
              <Button look="main" onClick={() => setId(dry.id)}>
                {t('seizes.dry', { what: words.word('ingredient', dry.name) })}
              </Button>
            )}
            <Button onClick={() => setMeant(chosen.id)}>{t('seizes.meant')}</Button>
          </div>
        </div>
      )}
      {open && chosen && (
        <WeightPad
          title={words.word('ingredient', chosen.name)}
          action={t('weigh.this', { what: words.word('ingredient', chosen.name) })}
          max={200_000_000}
          bulk={isBulk(chosen) ? balanceOf(view, step.id).inMg : 0}
          onWeight={(mg) => work.add(step.id, chosen, mg)}
          onClose={() => setOpen(false)}
        />
      )}
    </div>
  );
}
