import { AllergenBoxes } from '../AllergenBoxes.tsx';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { IngredientRecord } from '@wunsch/contract';
import { nutritionOf, type Composition, type Nutrition } from '@wunsch/core/recipe';
import { newId } from '../../shell/entry.ts';
import { useMayMake } from '../../shell/session.tsx';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { SelectField, TextField } from '../../ui/Field.tsx';
import { Chip, Panel } from '../../ui/Panel.tsx';
import { MoneyField, QuantityField } from '../../ui/QuantityField.tsx';
import { Table } from '../../ui/Table.tsx';
import { useWords } from '../../words/words.tsx';
import { Deliveries } from './Deliveries.tsx';
import { useIngredients } from './useIngredients.ts';

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
const NUTRITION = ['fat', 'saturates', 'carbohydrate', 'sugars', 'fibre', 'protein', 'salt'] as const;
const CACAO = ['bean', 'butter', 'powder', 'none'] as const;

/** Ingredients: what they hold, what they cost, what is on the shelf. */
export default function IngredientsPage() {
  const words = useWords();
  const { t } = words;
  const ingredients = useIngredients();
  const mayMake = useMayMake();
  const [open, setOpen] = useState<IngredientRecord | 'new' | null>(null);
  const list = [...ingredients.values()];
  return (
    <div className="p-3 sm:px-4">
      <header className="mb-3 flex flex-wrap items-center gap-3">
        <h1 className="text-[26px]">{t('ingredients')}</h1>
        <Link to="/recipe/write" className="underline underline-offset-4">
          {t('recipe.book')}
        </Link>
        {mayMake && (
          <Button
            className="ml-auto"
            icon={<Plus size={16} aria-hidden="true" />}
            onClick={() => setOpen('new')}
          >
            {t('ingredients.add')}
          </Button>
        )}
      </header>
      <div className="mb-2">
        <Deliveries />
      </div>
      <Panel>
        <Table
          caption={t('ingredients')}
          rows={list}
          keyOf={(i) => i.id}
          columns={[
            {
              id: 'name',
              title: t('ingredient'),
              cell: (i) =>
                mayMake ? (
                  <button
                    type="button"
                    className="min-h-8 text-left font-semibold underline underline-offset-4"
                    onClick={() => setOpen(i)}
                  >
                    {words.word('ingredient', i.name)}
                  </button>
                ) : (
                  words.word('ingredient', i.name)
                ),
            },
            {
              id: 'fat',
              title: t('figures.fat'),
              numeric: true,
              cell: (i) =>
                `${words.number(i.composition.cocoaButter + i.composition.milkFat + i.composition.otherFat, 1)} %`,
            },
            {
              id: 'sugar',
              title: t('figures.sugar'),
              numeric: true,
              cell: (i) => `${words.number(i.composition.sugar, 1)} %`,
            },
            {
              id: 'water',
              title: t('part.water'),
              numeric: true,
              cell: (i) => (
                <>
                  {words.number(i.composition.water, 1)} %{' '}
                  {i.composition.water > 8 && <Chip tone="bad">{t('ingredients.wet')}</Chip>}
                </>
              ),
            },
            { id: 'price', title: t('lot.price'), numeric: true, cell: (i) => words.money(i.pricePerKg) },
            {
              id: 'stock',
              title: t('ingredients.stock'),
              numeric: true,
              cell: (i) => (i.stockMg === null ? '' : words.mass(i.stockMg)),
            },
            {
              id: 'allergens',
              title: t('machine.allergens'),
              cell: (i) => i.allergens.map((a) => words.word('allergen', a)).join(', '),
            },
          ]}
        />
      </Panel>
      {open && <IngredientForm ingredient={open === 'new' ? null : open} onClose={() => setOpen(null)} />}
    </div>
  );
}

const NOTHING = Object.fromEntries(PARTS.map((p) => [p, 0])) as unknown as Composition;

function IngredientForm({
  ingredient,
  onClose,
}: {
  ingredient: IngredientRecord | null;
  onClose: () => void;
}) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const [name, setName] = useState(ingredient?.name ?? '');
  const [cacao, setCacao] = useState<IngredientRecord['cacao']>(ingredient?.cacao ?? 'none');
  const [composition, setComposition] = useState<Composition>(ingredient?.composition ?? NOTHING);
  const [nutrition, setNutrition] = useState<Nutrition | null>(ingredient?.nutrition ?? null);
  const [allergens, setAllergens] = useState<string[]>(ingredient?.allergens ?? []);
  const [strong, setStrong] = useState(ingredient?.strong ?? false);
  const [pricePerKg, setPrice] = useState(ingredient?.pricePerKg ?? 0);
  const [densityGPerMl, setDensity] = useState<number | null>(ingredient?.densityGPerMl ?? null);
  const [crystalUm, setCrystal] = useState<number | null>(ingredient?.crystalUm ?? null);
  const [stockMg, setStock] = useState<number | null>(ingredient?.stockMg ?? null);
  const [origin, setOrigin] = useState(ingredient?.origin ?? '');
  const sum = PARTS.reduce((s, p) => s + composition[p], 0);
  const adds = Math.abs(sum - 100) <= 0.5;
  const shownNutrition =
    nutrition ?? nutritionOf({ id: '', name, cacao, composition, pricePerKg, allergens });
  const save = () =>
    send({
      path: `/api/ingredients/${ingredient?.id ?? newId()}`,
      body: {
        name,
        key: ingredient?.key ?? '',
        cacao,
        composition,
        pricePerKg,
        allergens,
        strong,
        nutrition,
        densityGPerMl,
        crystalUm,
        stockMg,
        origin,
      },
      ifMatch: ingredient?.version,
      label: t('done.ingredient', { name }),
    }).then(onClose, () => undefined);
  return (
    <Dialog
      open
      onClose={onClose}
      title={ingredient ? words.word('ingredient', ingredient.name) : t('ingredients.add')}
      wide
    >
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (adds && name.trim()) void save();
        }}
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
          <MoneyField label={t('lot.price')} value={pricePerKg} onChange={setPrice} />
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
          <div className="grid grid-cols-2 items-end gap-2 sm:grid-cols-4">
            {NUTRITION.map((n) => (
              <QuantityField
                key={n}
                label={t(`nutrition.${n}`)}
                dimension="number"
                value={Math.round(shownNutrition[n] * 100) / 100}
                onChange={(v) =>
                  v !== null &&
                  Math.abs(v - shownNutrition[n]) > 0.006 &&
                  setNutrition({ ...shownNutrition, [n]: v })
                }
                min={0}
                max={100}
              />
            ))}
          </div>
        </fieldset>
        <div className="grid grid-cols-2 items-end gap-2 sm:grid-cols-4">
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
        <AllergenBoxes legend={t('machine.allergens')} value={allergens} onChange={setAllergens} />
        <label className="flex min-h-11 items-center gap-2">
          <input
            type="checkbox"
            className="size-5"
            checked={strong}
            onChange={(e) => setStrong(e.target.checked)}
          />
          {t('ingredients.strong')}
        </label>
        <Button type="submit" look="main" big disabled={!adds || !name.trim()}>
          {t('ingredients.save')}
        </Button>
      </form>
    </Dialog>
  );
}
