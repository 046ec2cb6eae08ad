import {
  claimInName,
  claimPercent,
  claimTooHigh,
  isOtherFood,
  recipeFigures,
  WATER_WARN,
  type RecipeLine,
} from '@wunsch/core/recipe';
import { useSession } from '../../shell/session.tsx';
import { Chip, Figure } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';

/** The true figures of a bowl, both ways of counting cacao side by side. Claims are never rounded up. */
export function Figures({
  lines,
  compare,
  name = '',
}: {
  lines: readonly RecipeLine[];
  compare?: readonly RecipeLine[] | null;
  /** What the recipe is called: a share it states is held against the bowl. */
  name?: string;
}) {
  const words = useWords();
  const { t } = words;
  const { cacaoSchool } = useSession().workshop;
  const f = recipeFigures(lines);
  const before = compare && compare.length > 0 ? recipeFigures(compare) : null;
  const claimed = claimInName(name);
  // Nuts and fruit in it do not make the chocolate any weaker.
  const chocolate = lines.filter((l) => !isOtherFood(l.ingredient));
  const isTooMuch = claimed !== null && f.totalMg > 0 && claimTooHigh(claimed, chocolate);
  // Beans have their price in the lot they are of; what the shelf knows no price of counts as nothing.
  const unpriced = new Set(
    lines.flatMap(({ ingredient: { name: of, pricePerKg, isFree }, massMg }) =>
      massMg > 0 && !(pricePerKg > 0) && !isFree ? [words.word('ingredient', of)] : [],
    ),
  );
  const percent = (value: number) => `${words.number(claimPercent(value), 1)} %`;
  const was = (now: number, old: number | undefined) =>
    old !== undefined && Math.abs(now - old) >= 0.05 ? t('figures.plan', { value: percent(old) }) : undefined;
  const all = (
    <Figure key="all" name={t('figures.all')} note={was(f.cacaoAll, before?.cacaoAll)}>
      {percent(f.cacaoAll)}
    </Figure>
  );
  const beans = (
    <Figure key="beans" name={t('figures.beans')} note={was(f.cacaoBeans, before?.cacaoBeans)}>
      {percent(f.cacaoBeans)}
    </Figure>
  );
  return (
    <div>
      <div className="flex flex-wrap gap-x-7 gap-y-3">
        {cacaoSchool === 'all' ? [all, beans] : [beans, all]}
        <Figure name={t('figures.fat')} note={was(f.fat, before?.fat)}>
          {percent(f.fat)}
        </Figure>
        <Figure name={t('figures.sugar')} note={was(f.sugar, before?.sugar)}>
          {percent(f.sugar)}
        </Figure>
        {f.milkFat > 0 && <Figure name={t('figures.milk-fat')}>{percent(f.milkFat)}</Figure>}
        <Figure name={t('figures.mass')}>{words.mass(f.totalMg)}</Figure>
        <Figure
          name={t('figures.cost')}
          note={unpriced.size > 0 ? t('figures.unpriced', { what: [...unpriced].join(', ') }) : undefined}
        >
          {words.money(f.cost)}
        </Figure>
      </div>
      <p className="mt-2 flex flex-wrap gap-2">
        {isTooMuch && (
          <Chip tone="bad">
            {t('figures.name-says', {
              claimed: `${words.number(claimed, claimed % 1 ? 1 : 0)} %`,
              is: percent(recipeFigures(chocolate).cacaoAll),
            })}
          </Chip>
        )}
        {f.allergens.length > 0 && (
          <Chip>
            {t('figures.allergens', { list: f.allergens.map((a) => words.word('allergen', a)).join(', ') })}
          </Chip>
        )}
        {f.totalMg > 0 && f.water > 2.2 + WATER_WARN && (
          <Chip tone="bad">{t('figures.water', { percent: percent(f.water) })}</Chip>
        )}
      </p>
    </div>
  );
}
