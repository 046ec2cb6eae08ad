import { Plus } from 'lucide-react';
import { useMemo, useState } from 'react';
import type { IngredientRecord } from '@wunsch/contract';
import { MG_PER_POUND, minorDigits } from '@wunsch/core/quantity';
import {
  figureOf,
  solveRecipe,
  type RecipeLine,
  type SolveAnswer,
  type Wish,
  type WishFigure,
} from '@wunsch/core/recipe';
import { Button } from '../../ui/Button.tsx';
import { Choice, SelectField } from '../../ui/Field.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { RemoveButton } from '../../ui/RemoveButton.tsx';
import { useWords, type Words } from '../../words/words.tsx';

const FIGURES = [
  'cacaoAll',
  'cacaoBeans',
  'fat',
  'sugar',
  'milkFat',
  'cocoaButter',
  'massMg',
  'costPerKg',
] as const;

/** A wish as it is being written. */
export interface WrittenWish {
  figure: string;
  min: number | null;
  max: number | null;
}

const figureFrom = (text: string): WishFigure =>
  (FIGURES as readonly string[]).includes(text) ? (text as (typeof FIGURES)[number]) : { ingredientId: text };

const wishName = (figure: WishFigure, lines: readonly RecipeLine[], words: Words): string =>
  typeof figure === 'object'
    ? words.word(
        'ingredient',
        lines.find((l) => l.ingredient.id === figure.ingredientId)?.ingredient.name ?? '',
      )
    : words.t(`wish.${figure}`, { unit: words.heavyUnit });

const isMass = (figure: WishFigure) => figure === 'massMg' || typeof figure === 'object';

function shown(figure: WishFigure, value: number, words: Words): string {
  if (isMass(figure)) return words.mass(Math.round(value));
  return figure === 'costPerKg' ? words.priceByMass(value) : `${words.number(value, 1)} %`;
}

/** Wishes for a recipe: each figure fixed, bounded or left free. The answer follows while typing; what cannot be had is explained. */
export function Wishes({
  lines,
  start,
  onTake,
}: {
  lines: readonly RecipeLine[];
  start: readonly WrittenWish[];
  onTake: (lines: readonly RecipeLine[]) => void;
}) {
  const words = useWords();
  const { t } = words;
  // A price is written in whole units of the currency for a kilogram, or for a pound.
  const priceUnit = 10 ** minorDigits(words.currency) / (words.heavyUnit === 'lb' ? MG_PER_POUND / 1e6 : 1);
  const [wishes, setWishes] = useState<readonly WrittenWish[]>(start);
  const [towards, setTowards] = useState<'written' | 'cheapest'>('written');
  const named = new Set<string>([...FIGURES, ...lines.map((l) => l.ingredient.id)]);
  const known = wishes.filter((w) => (w.min !== null || w.max !== null) && named.has(w.figure));
  const crossed = known.some((w) => w.min !== null && w.max !== null && w.min > w.max);
  const asked: Wish[] = [
    ...known.map((w): Wish => ({
      figure: figureFrom(w.figure),
      ...(w.min !== null && { min: w.min }),
      ...(w.max !== null && { max: w.max }),
    })),
    // What is on the shelf bounds an ingredient where someone keeps count of it.
    ...lines.flatMap((l): Wish[] => {
      const { stockMg, onHandMg } = l.ingredient as Partial<IngredientRecord>;
      const isCounted = typeof stockMg === 'number' && typeof onHandMg === 'number';
      return isCounted ? [{ figure: { ingredientId: l.ingredient.id }, max: onHandMg }] : [];
    }),
  ];
  // Wishes and lines are made anew with every key pressed; their contents decide whether there is anything to solve.
  const question = JSON.stringify([asked, towards, lines]);
  const answer = useMemo(() => {
    const [wanted, way, from] = JSON.parse(question) as [Wish[], typeof towards, RecipeLine[]];
    return known.length === 0 || crossed ? null : solveRecipe({ lines: from, towards: way, wishes: wanted });
  }, [question, known.length, crossed]);
  const change = (i: number, part: Partial<WrittenWish>) =>
    setWishes(wishes.map((w, k) => (k === i ? { ...w, ...part } : w)));
  return (
    <Panel title={t('wishes.title')} aside={t('wishes.hint')}>
      <ul className="grid gap-2">
        {wishes.map((w, i) => {
          const mass = isMass(figureFrom(w.figure));
          const field = (side: 'min' | 'max') => (
            <QuantityField
              label={t(`wish.${side}`)}
              dimension={mass ? 'mass' : w.figure === 'costPerKg' ? 'number' : 'percent'}
              value={w[side] === null ? null : w.figure === 'costPerKg' ? w[side]! / priceUnit : w[side]}
              onChange={(v) =>
                change(i, { [side]: v === null ? null : w.figure === 'costPerKg' ? v * priceUnit : v })
              }
              min={0}
              max={mass ? 100_000_000_000 : w.figure === 'costPerKg' ? 1e6 : 100}
              optional
            />
          );
          return (
            <li
              key={i}
              className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_44px] items-end gap-2 sm:grid-cols-[minmax(0,1fr)_84px_84px_44px]"
            >
              <SelectField
                label={t('wish.figure')}
                value={w.figure}
                onChange={(e) => change(i, { figure: e.target.value, min: null, max: null })}
                className="col-span-3 sm:col-span-1"
              >
                {FIGURES.map((f) => (
                  <option key={f} value={f}>
                    {t(`wish.${f}`, { unit: words.heavyUnit })}
                  </option>
                ))}
                {lines.map((l) => (
                  <option key={l.ingredient.id} value={l.ingredient.id}>
                    {t('wish.mass-of', { what: words.word('ingredient', l.ingredient.name) })}
                  </option>
                ))}
              </SelectField>
              {field('min')}
              {field('max')}
              <RemoveButton
                label={t('wish.remove', { what: wishName(figureFrom(w.figure), lines, words) })}
                onRemove={() => setWishes(wishes.filter((_, k) => k !== i))}
              />
            </li>
          );
        })}
      </ul>
      <div className="my-3 flex flex-wrap items-center gap-2">
        <Button
          icon={<Plus size={16} aria-hidden="true" />}
          onClick={() =>
            setWishes([
              ...wishes,
              {
                figure: FIGURES.find((f) => !wishes.some((w) => w.figure === f)) ?? 'fat',
                min: null,
                max: null,
              },
            ])
          }
        >
          {t('wish.add')}
        </Button>
        <Choice
          label={t('wish.towards')}
          value={towards}
          onChange={setTowards}
          options={(['written', 'cheapest'] as const).map((k) => ({
            value: k,
            label: t(`wish.towards.${k}`),
          }))}
        />
      </div>
      <div role="status">
        {crossed && <p className="text-bad">{t('wish.crossed')}</p>}
        {answer && <Answer answer={answer} lines={lines} onTake={onTake} />}
      </div>
    </Panel>
  );
}

function Answer({
  answer,
  lines,
  onTake,
}: {
  answer: SolveAnswer;
  lines: readonly RecipeLine[];
  onTake: (lines: readonly RecipeLine[]) => void;
}) {
  const words = useWords();
  const { t } = words;
  const changes = answer.lines
    .map((l, i) => ({ l, by: l.massMg - lines[i]!.massMg }))
    .filter((c) => Math.abs(c.by) >= 1000);
  const side = (c: { side: 'min' | 'max'; wish: Wish }) =>
    c.wish.min !== undefined && c.wish.min === c.wish.max ? 'exactly' : c.side;
  return (
    <div>
      {!answer.ok && (
        <div className="mb-2 rounded border border-bad bg-bad-tint p-3">
          <p className="font-semibold text-bad">▲ {t('wish.conflict')}</p>
          <ul className="mt-1 grid gap-1">
            {answer.conflicts.map((c, i) => {
              const name = wishName(c.wish.figure, lines, words);
              return (
                <li key={i}>
                  {t(`wish.conflict.${side(c)}`, {
                    what: name,
                    wanted: shown(c.wish.figure, c.wanted, words),
                  })}{' '}
                  {c.possible === null
                    ? t('wish.conflict.alone-never')
                    : t(c.side === 'max' ? 'wish.conflict.least' : 'wish.conflict.most', {
                        possible: shown(c.wish.figure, c.possible, words),
                      })}
                </li>
              );
            })}
          </ul>
          <p className="mt-2 text-[12.5px]">
            {t('wish.nearest', {
              list: answer.conflicts
                .map(
                  (c) => `${wishName(c.wish.figure, lines, words)} ${shown(c.wish.figure, c.nearest, words)}`,
                )
                .join(', '),
            })}
          </p>
        </div>
      )}
      {changes.length === 0 ? (
        <p className="text-ok">✓ {t('wish.as-is')}</p>
      ) : (
        <>
          <ul className="mb-2">
            {changes.map(({ l, by }) => (
              <li key={l.ingredient.id} className="flex justify-between gap-3 border-b border-line py-1.5">
                <span>{words.word('ingredient', l.ingredient.name)}</span>
                <span>
                  <span className="text-ink-3">
                    {by > 0 ? '+' : '−'}
                    {words.mass(Math.abs(by))}
                  </span>{' '}
                  <span className="num text-[15px]">{words.mass(l.massMg)}</span>
                </span>
              </li>
            ))}
          </ul>
          <Button look={answer.ok ? 'main' : 'plain'} onClick={() => onTake(answer.lines)}>
            {t(answer.ok ? 'wish.take' : 'wish.take-nearest')}
          </Button>
          <span className="ml-3 text-[12.5px] text-ink-3">
            {t('wish.result', {
              mass: words.mass(answer.figures.totalMg),
              fat: words.number(answer.figures.fat, 1),
              cost: words.priceByMass(figureOf('costPerKg', answer.lines)),
            })}
          </span>
        </>
      )}
    </div>
  );
}
