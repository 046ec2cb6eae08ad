import type { PlanRoomView } from '@wunsch/contract';
import { useWords } from '../words/words.tsx';

/** What bars can be made by, to choose from: recipes, and chocolate that was bought ready and is made into bars as it is. */
export function MadeByOptions({ recipes }: Pick<PlanRoomView, 'recipes'>) {
  const { t } = useWords();
  const options = (of: PlanRoomView['recipes']) =>
    of.map((r) => (
      <option key={r.id} value={r.id}>
        {r.name}
      </option>
    ));
  // Bought chocolate stands for its own recipe, under the id of its lot.
  const written = recipes.filter((r) => r.id !== r.lotId);
  const ready = recipes.filter((r) => r.id === r.lotId);
  return (
    <>
      {options(written)}
      {ready.length > 0 && <optgroup label={t('plan.ready-made')}>{options(ready)}</optgroup>}
    </>
  );
}
