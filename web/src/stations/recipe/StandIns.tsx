import { useState } from 'react';
import type { IngredientRecord } from '@wunsch/contract';
import { substituteNibs, type RecipeLine, type Substitute } from '@wunsch/core/recipe';
import { Button } from '../../ui/Button.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';

/** Liquor for nibs, or powder and butter for nibs, so that all figures stay. */
export function StandIns({
  lines,
  ingredients,
  onTake,
}: {
  lines: readonly RecipeLine[];
  ingredients: ReadonlyMap<string, IngredientRecord>;
  onTake: (lines: readonly RecipeLine[]) => void;
}) {
  const words = useWords();
  const { t } = words;
  const [error, setError] = useState<string | null>(null);
  const [massMg, setMass] = useState<number | null>(null);
  const by = (key: string) => [...ingredients.values()].find((i) => i.key === key);
  const nibs = lines.find((l) => l.ingredient.cacao === 'bean' && l.massMg > 0);
  if (!nibs) return null;
  const isLiquor = nibs.ingredient.id === by('liquor')?.id;
  const swap = (way: Substitute) => {
    const liquorRecord = by('liquor');
    try {
      onTake(
        substituteNibs(lines, {
          nibs: nibs.ingredient,
          massMg: massMg ?? nibs.massMg,
          by: way,
          // Liquor of the same beans has their fat.
          liquor: liquorRecord && { ...liquorRecord, composition: nibs.ingredient.composition },
          powder: by('cocoa-powder'),
          butter: by('cocoa-butter'),
        }),
      );
      setError(null);
    } catch (failure) {
      setError(words.explain(failure));
    }
  };
  return (
    <Panel title={t(isLiquor ? 'stand-in.for-liquor' : 'stand-in')} aside={t('stand-in.hint')}>
      <div className="flex flex-wrap items-end gap-2">
        <QuantityField
          label={t('stand-in.mass')}
          dimension="mass"
          value={massMg}
          onChange={setMass}
          min={1000}
          max={nibs.massMg}
          optional
          placeholder={words.mass(nibs.massMg)}
          className="w-40"
        />
        {by('liquor') && !isLiquor && <Button onClick={() => swap('liquor')}>{t('stand-in.liquor')}</Button>}
        <Button onClick={() => swap('powder and butter')}>{t('stand-in.powder')}</Button>
      </div>
      {error && (
        <p role="alert" className="mt-2 text-bad">
          {error}
        </p>
      )}
    </Panel>
  );
}
