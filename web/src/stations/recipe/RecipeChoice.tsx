import { useState, type ReactNode } from 'react';
import type { BatchView } from '@wunsch/contract';
import { nibFatOf } from '@wunsch/core/beans';
import { ENTRY_STATION } from '@wunsch/core/ledger';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { SelectField } from '../../ui/Field.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import { RecipeWriter } from './RecipeWriter.tsx';
import { useRecipes } from './useIngredients.ts';

/** Which recipe a batch is made by: chosen from the book, or written here, before or after its beans are in the bowl. */
export function RecipeChoice({
  view,
  bean,
  beansMg,
  aside,
  chosen,
  onChosen,
  children,
}: {
  view: BatchView;
  bean: 'nibs' | 'liquor';
  /** What a recipe that is written here begins with. */
  beansMg: number | undefined;
  aside?: string;
  /** What is told of the recipe chosen, while none is written. */
  chosen?: ReactNode;
  onChosen?: () => void;
  /** What stands below the choice. */
  children?: ReactNode;
}) {
  const { t } = useWords();
  const send = useEntryHere();
  const recipes = useRecipes();
  const [writing, setWriting] = useState(false);
  const choose = (recipeId: string | null) => {
    const { code, plannedMg, barMg, route, routeChosen } = view.batch;
    return send({
      path: `/api/batches/${view.batch.id}/facts`,
      body: { code, plannedMg, recipeId, barMg, route: routeChosen ? route : null },
      label: t('done.recipe-chosen'),
      batchId: view.batch.id,
      ifMatch: view.batch.version,
    }).then(onChosen, () => undefined);
  };
  return (
    <>
      <Panel title={t('recipe.choose')} aside={aside}>
        <div className="flex flex-wrap items-end gap-3 not-last:mb-4">
          <SelectField
            label={t('recipe')}
            value={view.batch.recipeId ?? ''}
            onChange={(e) => void choose(e.target.value || null)}
            className="min-w-64"
          >
            <option value="">{t('recipe.none')}</option>
            {recipes
              .filter((r) => r.current || r.id === view.batch.recipeId)
              .map((r) => (
                <option key={r.id} value={r.id}>
                  {`${r.name} (${t('recipe.version', { n: r.number })})`}
                </option>
              ))}
          </SelectField>
          <Button onClick={() => setWriting(!writing)}>
            {view.recipe ? t('recipe.change') : t('recipe.write')}
          </Button>
        </div>
        {view.recipe && !writing && chosen}
        {children}
      </Panel>
      {writing && (
        <div className="mt-2">
          <RecipeWriter
            key={view.recipe?.id ?? 'new'}
            takesFocus
            from={view.recipe}
            beansMg={beansMg}
            atMostMg={ENTRY_STATION[view.lot.material] === 'recipe' ? view.lot.remainingMg : null}
            bean={bean}
            nibFat={nibFatOf(view.lot)}
            onSaved={(id) => {
              setWriting(false);
              void choose(id);
            }}
          />
        </div>
      )}
    </>
  );
}
