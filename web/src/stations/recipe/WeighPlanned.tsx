import type { IngredientRecord } from '@wunsch/contract';
import { WeightPad } from '../../ui/WeightPad.tsx';
import { useWords } from '../../words/words.tsx';

/** So many times what is missing, or more, and a weight is asked about. */
const MUCH_MORE = 1.5;

/** The pad for an ingredient of the recipe: it begins with what is still missing, and asks about much more. */
export function WeighPlanned({
  ingredient,
  missingMg,
  onWeight,
  onClose,
}: {
  ingredient: IngredientRecord;
  missingMg: number;
  onWeight: (mg: number) => Promise<unknown>;
  onClose: () => void;
}) {
  const words = useWords();
  const { t } = words;
  const name = words.word('ingredient', ingredient.name);
  const planned = { mass: words.mass(missingMg) };
  return (
    <WeightPad
      title={name}
      description={t('recipe.wanted', planned)}
      action={t('weigh.this', { what: name })}
      max={200_000_000}
      initial={missingMg}
      doubt={(mg) => (mg > MUCH_MORE * missingMg ? t('recipe.wanted.less', planned) : null)}
      onWeight={onWeight}
      onClose={onClose}
    />
  );
}
