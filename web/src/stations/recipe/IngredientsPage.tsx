import { Plus } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { IngredientRecord } from '@wunsch/contract';
import { useMayMake } from '../../shell/session.tsx';
import { useAsked } from '../../shell/useAsked.ts';
import { Button } from '../../ui/Button.tsx';
import { Chip, Panel } from '../../ui/Panel.tsx';
import { Table } from '../../ui/Table.tsx';
import { useWords } from '../../words/words.tsx';
import { Deliveries } from './Deliveries.tsx';
import { IngredientForm } from './IngredientForm.tsx';
import { costNow, useIngredients } from './useIngredients.ts';

/** Ingredients: what they hold, what they cost, what is on the shelf. */
export default function IngredientsPage() {
  const words = useWords();
  const { t } = words;
  const ingredients = useIngredients();
  const mayMake = useMayMake();
  const [open, setOpen] = useState<IngredientRecord | 'new' | null>(null);
  useAsked('add', () => setOpen('new'));
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
            {
              id: 'price',
              title: t('lot.price', { unit: words.heavyUnit }),
              numeric: true,
              cell: (i) => <Price of={i} />,
            },
            {
              id: 'stock',
              title: t('ingredients.stock'),
              numeric: true,
              cell: (i) => (i.onHandMg === null ? '' : words.mass(i.onHandMg)),
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

/** What an ingredient costs now; beans have their price in the lot they are of. */
function Price({ of }: { of: IngredientRecord }) {
  const words = useWords();
  const { t } = words;
  const now = costNow(of);
  if (!(now > 0))
    return (
      <span className="text-ink-2">{t(of.cacao === 'bean' ? 'ingredients.by-beans' : 'stock.no-price')}</span>
    );
  return (
    <>
      {words.priceByMass(now)}
      {now !== of.pricePerKg && (
        <span className="block text-[12px] text-ink-3">{t('ingredients.as-delivered')}</span>
      )}
    </>
  );
}
