import { useState } from 'react';
import type { IngredientRecord } from '@wunsch/contract';
import { allergensNamed, ingredientName, LABEL_LANGUAGES } from '@wunsch/core/label';
import { nutritionFault, nutritionOf, type Composition, type Nutrition } from '@wunsch/core/recipe';
import { newId } from '../../shell/entry.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { CheckField, SelectField, TextField } from '../../ui/Field.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { PriceField } from '../../ui/PriceField.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { AllergenBoxes } from '../AllergenBoxes.tsx';
import { IngredientHistory } from './IngredientHistory.tsx';

const PARTS = [
  'cocoaButter',
  'otherFat',
  'milkFat',
  'cocoaSolids',
  'sugar',
  'milkSolids',
  'otherSolids',
  'water',
  'emulsifier',
] as const;
const NUTRITION = [
  'fat',
  'saturates',
  'carbohydrate',
  'sugars',
  'polyols',
  'erythritol',
  'fibre',
  'protein',
  'salt',
] as const;
/** Of which most have none worth naming. */
const POLYOLS: ReadonlySet<string> = new Set(['polyols', 'erythritol']);
const CACAO = ['bean', 'butter', 'powder', 'none'] as const;

const NOTHING = Object.fromEntries(PARTS.map((p) => [p, 0])) as unknown as Composition;

/** An ingredient added or changed: what 100 g of it hold, what it costs, and what labels call it. */
export function IngredientForm({
  ingredient,
  onClose,
}: {
  ingredient: IngredientRecord | null;
  onClose: () => void;
}) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const [id] = useState(() => ingredient?.id ?? newId());
  // Sent again after a refusal it is still the same one.
  const [otherId] = useState(newId);
  const [name, setName] = useState(ingredient?.name ?? '');
  const [cacao, setCacao] = useState<IngredientRecord['cacao']>(ingredient?.cacao ?? 'none');
  const [composition, setComposition] = useState<Composition>(ingredient?.composition ?? NOTHING);
  const [nutrition, setNutrition] = useState<Nutrition | null>(ingredient?.nutrition ?? null);
  const [allergens, setAllergens] = useState<string[]>(ingredient?.allergens ?? []);
  const [labelNames, setLabelNames] = useState(ingredient?.labelNames ?? {});
  const [strong, setStrong] = useState(ingredient?.strong ?? false);
  const [pricePerKg, setPrice] = useState(ingredient?.pricePerKg ?? 0);
  const [densityGPerMl, setDensity] = useState<number | null>(ingredient?.densityGPerMl ?? null);
  const [crystalUm, setCrystal] = useState<number | null>(ingredient?.crystalUm ?? null);
  const [stockMg, setStock] = useState<number | null>(ingredient?.shelfMg ?? null);
  const [origin, setOrigin] = useState(ingredient?.origin ?? '');
  const sum = PARTS.reduce((s, p) => s + composition[p], 0);
  const adds = Math.abs(sum - 100) <= 0.5;
  const shownNutrition =
    nutrition ?? nutritionOf({ id: '', name, cacao, composition, pricePerKg, allergens });
  const fault = nutritionFault(shownNutrition);
  const state = (n: keyof Nutrition, value: number) =>
    Math.abs(value - (shownNutrition[n] ?? 0)) > 0.006 && setNutrition({ ...shownNutrition, [n]: value });
  // What is stated of what was made with it changes along.
  const isOther =
    ingredient !== null &&
    (cacao !== ingredient.cacao ||
      PARTS.some((p) => composition[p] !== ingredient.composition[p]) ||
      JSON.stringify(nutrition) !== JSON.stringify(ingredient.nutrition) ||
      [...allergens].sort().join() !== [...ingredient.allergens].sort().join());
  const facts = { cacao, composition, pricePerKg, allergens, strong, labelNames, nutrition, densityGPerMl };
  const save = () =>
    send({
      path: `/api/ingredients/${id}`,
      body: { ...facts, name, key: ingredient?.key ?? '', crystalUm, stockMg, origin },
      ifMatch: ingredient?.version,
      label: t('done.ingredient', { name }),
    });
  const addOther = () =>
    send({
      path: `/api/ingredients/${otherId}`,
      body: { ...facts, name, crystalUm, origin },
      label: t('done.ingredient', { name }),
    });
  const hasOwnName = name.trim() !== '' && name.trim() !== ingredient?.name;
  return (
    <FormDialog
      title={ingredient ? words.word('ingredient', ingredient.name) : t('ingredients.add')}
      wide
      submit={t('ingredients.save')}
      isReady={adds && fault === null && name.trim() !== ''}
      onSubmit={save}
      onClose={onClose}
      also={({ busy, run }) =>
        isOther && (
          <>
            <Button
              big
              disabled={busy || !hasOwnName || !adds || fault !== null}
              onClick={() => run(addOther)}
            >
              {t('ingredients.add-other')}
            </Button>
            <p className="w-full text-[13.5px] text-ink-2">
              {t('ingredients.other')} {!hasOwnName && t('ingredients.other.name')}
            </p>
          </>
        )
      }
    >
      <div className="grid gap-3 sm:grid-cols-3">
        <TextField
          label={t('ingredients.name')}
          value={name}
          onChange={(e) => setName(e.target.value)}
          maxLength={120}
          required
        />
        <SelectField
          label={t('ingredients.counts')}
          value={cacao}
          onChange={(e) => setCacao(e.target.value as IngredientRecord['cacao'])}
        >
          {CACAO.map((c) => (
            <option key={c} value={c}>
              {t(`counts.${c}`)}
            </option>
          ))}
        </SelectField>
        <PriceField value={pricePerKg} onChange={setPrice} />
      </div>
      <fieldset>
        <legend className="mb-1 font-semibold">
          {t('ingredients.composition')}{' '}
          <span className={adds ? 'font-normal text-ok' : 'font-normal text-bad'}>
            {adds
              ? `✓ ${t('ingredients.adds')}`
              : `▲ ${t('ingredients.adds-not', { sum: words.number(sum, 1) })}`}
          </span>
        </legend>
        <div className="grid grid-cols-2 items-end gap-2 sm:grid-cols-3">
          {PARTS.map((p) => (
            <QuantityField
              key={p}
              label={t(`part.${p}`)}
              dimension="percent"
              value={composition[p]}
              onChange={(v) => setComposition({ ...composition, [p]: v ?? 0 })}
              min={0}
              max={100}
            />
          ))}
        </div>
      </fieldset>
      <fieldset>
        <legend className="mb-1 font-semibold">
          {t('nutrition')}{' '}
          {nutrition === null && (
            <span className="font-normal text-ink-3">{t('ingredients.nutrition.worked-out')}</span>
          )}
        </legend>
        <div className="grid grid-cols-2 items-end gap-2 sm:grid-cols-3">
          {NUTRITION.map((n) => (
            <QuantityField
              key={n}
              label={t(`nutrition.${n}`)}
              dimension="number"
              value={shownNutrition[n] === undefined ? null : Math.round(shownNutrition[n] * 100) / 100}
              onChange={(v) => (v !== null || POLYOLS.has(n)) && state(n, v ?? 0)}
              min={0}
              max={100}
              optional={POLYOLS.has(n)}
            />
          ))}
        </div>
        {fault && (
          <p role="alert" className="mt-2 text-[13.5px] text-bad">
            ▲{' '}
            {fault === 'over-100'
              ? t('nutrition.over-100')
              : t('nutrition.part-over', {
                  part: t(`nutrition.${fault.part}`),
                  of: t(`nutrition.${fault.of}`),
                })}
          </p>
        )}
        {nutrition !== null && (
          <Button look="quiet" className="mt-1" onClick={() => setNutrition(null)}>
            {t('ingredients.nutrition.work-out')}
          </Button>
        )}
      </fieldset>
      <div className="grid grid-cols-2 items-start gap-2 sm:grid-cols-4">
        <QuantityField
          label={t('ingredients.density')}
          dimension="number"
          value={densityGPerMl}
          onChange={setDensity}
          min={0.05}
          max={5}
          optional
        />
        <QuantityField
          label={t('ingredients.crystal')}
          dimension="length"
          value={crystalUm}
          onChange={setCrystal}
          min={1}
          max={10_000}
          optional
        />
        <QuantityField
          label={t('ingredients.stock')}
          hint={t('ingredients.stock.hint')}
          dimension="mass"
          value={stockMg}
          onChange={setStock}
          min={0}
          max={1e11}
          optional
        />
        <TextField
          label={t('ingredients.origin')}
          value={origin}
          onChange={(e) => setOrigin(e.target.value)}
          maxLength={120}
        />
      </div>
      <details>
        <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">
          {t('ingredients.on-labels')}
          <span className="ml-2 font-normal text-ink-3">
            {LABEL_LANGUAGES.map((l) => ingredientName(name, l, labelNames))
              .filter((n) => n.known && n.text.trim())
              .map((n) => n.text)
              .join(' · ')}
          </span>
        </summary>
        <p className="mb-2 text-[13px] text-ink-3">{t('ingredients.on-labels.text')}</p>
        <div className="grid gap-2 sm:grid-cols-3">
          {LABEL_LANGUAGES.map((language) => (
            <TextField
              key={language}
              label={t(`lab.language.${language}`)}
              value={labelNames[language] ?? ''}
              placeholder={ingredientName(name, language).known ? ingredientName(name, language).text : ''}
              onChange={(e) => setLabelNames({ ...labelNames, [language]: e.target.value })}
              maxLength={120}
            />
          ))}
        </div>
      </details>
      <AllergenBoxes
        legend={t('machine.allergens')}
        value={allergens}
        onChange={setAllergens}
        likely={[
          ...allergensNamed(name),
          ...(composition.milkFat + composition.milkSolids > 0 ? ['milk'] : []),
        ]}
      />
      <CheckField label={t('ingredients.strong')} checked={strong} onChange={setStrong} />
      {ingredient && <IngredientHistory id={ingredient.id} />}
    </FormDialog>
  );
}
