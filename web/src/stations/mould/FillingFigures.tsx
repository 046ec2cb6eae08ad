import { fillingDays, fillingWater, type FillingWater } from '@wunsch/core/mould';
import { recipeFigures } from '@wunsch/core/recipe';
import { Chip, Figure } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import type { Pot } from './useFillings.ts';

/** What the water of a filling comes to; null for an empty pot, one of which too little is known, or where more has boiled off than there was. */
export function waterOf({ lines, leastSugar, isBlind }: Pot, boiledOffMg: number): FillingWater | null {
  if (isBlind) return null;
  try {
    const { water, activity } = fillingWater(lines, boiledOffMg);
    const wettest = fillingWater(leastSugar, boiledOffMg).activity;
    return { water, activity: activity && wettest && { low: activity.low, high: wettest.high } };
  } catch (error) {
    if (error instanceof RangeError) return null;
    throw error;
  }
}

/** What a filling is: its water, fat and sugar, how free its water is and how long it keeps by that, and its allergens. */
export function FillingFigures({ pot, boiledOffMg }: { pot: Pot; boiledOffMg: number }) {
  const words = useWords();
  const { t } = words;
  const { lines, unknown } = pot;
  const found = waterOf(pot, boiledOffMg);
  if (pot.isBlind)
    return (
      <p role="status">
        <Chip tone="due">{t('filling.blind', { what: unknown.join(', ') })}</Chip>
      </p>
    );
  if (!found) return null;
  const f = recipeFigures(lines);
  // What boils off is water: the rest of it becomes more of the whole.
  const thicker = f.totalMg / (f.totalMg - boiledOffMg);
  const unpriced = lines.some((l) => l.massMg > 0 && !(l.ingredient.pricePerKg > 0));
  const percent = (value: number) => `${words.number(value, 1)} %`;
  const { activity } = found;
  const [fewest, most] = activity ? [fillingDays(activity.high), fillingDays(activity.low)] : [0, 0];
  return (
    <div role="status" className="grid gap-2 border-t border-line pt-3">
      <div className="flex flex-wrap gap-x-7 gap-y-3">
        <Figure name={t('part.water')}>{percent(found.water)}</Figure>
        <Figure name={t('figures.fat')}>{percent(f.fat * thicker)}</Figure>
        <Figure name={t('figures.sugar')}>{percent(f.sugar * thicker)}</Figure>
        <Figure
          name={t('filling.cost', { unit: words.heavyUnit })}
          note={unpriced ? t('filling.unpriced') : undefined}
        >
          {words.priceByMass((1e6 * f.cost) / (f.totalMg - boiledOffMg))}
        </Figure>
        {activity && (
          <Figure name={t('filling.activity')} note={t('filling.activity.note')}>
            {t('filling.activity.range', {
              low: words.number(activity.low, 2),
              high: words.number(activity.high, 2),
            })}
          </Figure>
        )}
        {activity && (
          <Figure name={t('filling.keeps')} note={t('filling.keeps.note')}>
            {fewest === most
              ? t('filling.days', { n: fewest })
              : t('filling.days.range', { low: fewest, high: most })}
          </Figure>
        )}
      </div>
      {!activity && <p className="text-[13px] text-ink-2">{t('filling.dry')}</p>}
      <p className="flex flex-wrap gap-2">
        {f.allergens.length > 0 && (
          <Chip>
            {t('figures.allergens', { list: f.allergens.map((a) => words.word('allergen', a)).join(', ') })}
          </Chip>
        )}
        {unknown.length > 0 && <Chip tone="due">{t('filling.unknown', { what: unknown.join(', ') })}</Chip>}
      </p>
    </div>
  );
}
