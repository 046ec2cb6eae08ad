import type { IngredientVersion } from '@wunsch/contract';
import { useRead } from '../../shell/door.tsx';
import type { WordKey } from '../../words/en.ts';
import { useWords } from '../../words/words.tsx';
import { changesBetween, type IngredientChange } from './ingredientChanges.ts';

/** What each thing is called, where it is not a part of the composition. */
const NAMES: Partial<Record<IngredientChange['what'], WordKey>> = {
  name: 'ingredients.name',
  cacao: 'ingredients.counts',
  allergens: 'machine.allergens',
  strong: 'ingredients.strong',
  labelNames: 'ingredients.on-labels',
  nutrition: 'nutrition',
  densityGPerMl: 'ingredients.density',
  crystalUm: 'ingredients.crystal',
  stockMg: 'ingredients.stock',
  origin: 'ingredients.origin',
};

/** What an ingredient was before: every change with who made it, the newest first. */
export function IngredientHistory({ id }: { id: string }) {
  const words = useWords();
  const { t } = words;
  const { data } = useRead<IngredientVersion[]>(`/api/ingredients/${id}/history`);
  const versions = data ?? [];
  const told = versions
    .map((v, i) => ({ ...v, changes: i === 0 ? null : changesBetween(versions[i - 1]!.facts, v.facts) }))
    .filter((v) => v.changes?.length !== 0)
    .toReversed();
  if (told.length < 2) return null;
  return (
    <details>
      <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">{t('ingredients.history')}</summary>
      <ol className="text-[13.5px]">
        {told.map((v) => (
          <li key={v.seq} className="border-b border-line py-1.5">
            <span className="text-ink-3">
              {words.day(v.at)} {v.by}
            </span>
            <ul>
              {v.changes?.map((c) => (
                <li key={c.what}>
                  <Change change={c} />
                </li>
              )) ?? (
                <li>{t('ingredients.history.begun', { price: words.priceOrNone(v.facts.pricePerKg) })}</li>
              )}
            </ul>
          </li>
        ))}
      </ol>
    </details>
  );
}

function Change({ change: { what, before, after } }: { change: IngredientChange }) {
  const words = useWords();
  const { t } = words;
  const told = (value: unknown): string | null => {
    if (value === null || value === '') return '—';
    if (what.startsWith('part.')) return `${words.number(value as number, 1)} %`;
    switch (what) {
      case 'pricePerKg':
        return words.priceOrNone(value as number);
      case 'stockMg':
        return words.mass(value as number);
      case 'cacao':
        return t(`counts.${value as 'bean'}`);
      case 'allergens':
        return (value as string[]).map((a) => words.word('allergen', a)).join(', ') || '—';
      case 'densityGPerMl':
      case 'crystalUm':
        return words.number(value as number, what === 'crystalUm' ? 0 : 2);
      case 'name':
      case 'origin':
        return words.word('ingredient', value as string);
      default:
        return null;
    }
  };
  const name = what === 'pricePerKg' ? t('ingredients.history.price') : t(NAMES[what] ?? (what as WordKey));
  const [from, to] = [told(before), told(after)];
  return (
    <>
      {name}
      {from === null || to === null ? '' : `: ${from} → ${to}`}
    </>
  );
}
