import { useState } from 'react';
import { classBefore, LABEL_WORDS, nameIn, sweetenedFor, sweetenedWords } from '@wunsch/core/label';
import {
  energy,
  labelDecimals,
  labelFacts,
  nutritionFor,
  roundForLabel,
  soldName,
  type Market,
  type Nutrition,
  type RecipeLine,
} from '@wunsch/core/recipe';
import { Choice } from '../../ui/Field.tsx';
import { Chip, Panel } from '../../ui/Panel.tsx';
import { Table } from '../../ui/Table.tsx';
import { useWords, type Words } from '../../words/words.tsx';
import { usualMarket } from '../usualMarket.ts';

const NAMES = ['fat', 'saturates', 'carbohydrate', 'sugars', 'polyols', 'fibre', 'protein', 'salt'] as const;

/** What the label will say: ingredients in falling order with allergens standing out, nutrition per 100 g and per bar, and what it may be sold as. */
export function LabelFacts({ lines, barMg }: { lines: readonly RecipeLine[]; barMg: number }) {
  const words = useWords();
  const { t } = words;
  const [market, setMarket] = useState<Market>(usualMarket(words.currency));
  const facts = labelFacts(lines);
  if (facts.ingredients.length === 0) return null;
  const called = nameIn({ lines }, words.language);
  const byName = new Map(lines.map((l) => [l.ingredient.name, l.ingredient]));
  const bar = nutritionFor(facts.per100g, barMg / 1000);
  const rows: { name: string; per100: string; perBar: string }[] = [
    { name: t('nutrition.energy'), per100: energyText(facts.per100g), perBar: energyText(bar) },
    ...NAMES.filter((n) => n !== 'polyols' || roundForLabel(n, facts.per100g.polyols ?? 0) > 0).map((n) => ({
      name: t(`nutrition.${n}`),
      per100: grams(roundForLabel(n, facts.per100g[n] ?? 0), n),
      perBar: grams(roundForLabel(n, bar[n] ?? 0), n),
    })),
  ];
  function grams(value: number, name: keyof Nutrition): string {
    return `${words.number(value, labelDecimals(name, value))} g`;
  }
  function energyText(n: Nutrition): string {
    const e = energy(n);
    return `${words.number(e.kJ)} kJ / ${words.number(e.kcal)} kcal`;
  }
  const sold = soldName(lines, market);
  const sweet = sweetenedFor({ lines, bought: {} }, market);
  // What it may be called comes first; the rest in the order of the rules.
  const verdicts = sold.verdicts.toSorted((a, b) => Number(b.met) - Number(a.met));
  return (
    <Panel title={t('label-facts')} aside={t('label-facts.hint')}>
      <p className="mb-3">
        {t('label.ingredients')}{' '}
        {facts.ingredients.map((i, k) => (
          <span key={i.name}>
            {k > 0 && ', '}
            {classBefore(byName.get(i.name)!, called(i.name).text, market, words.language)}
            <span className={i.allergens.length > 0 ? 'font-bold uppercase' : ''}>{called(i.name).text}</span>
          </span>
        ))}
        .{sweet?.laxative && ` ${LABEL_WORDS[words.language].laxative}`}
      </p>
      <div className="grid gap-4 lg:grid-cols-2">
        <Table
          caption={t('nutrition')}
          rows={rows}
          keyOf={(r) => r.name}
          columns={[
            { id: 'name', title: t('nutrition'), cell: (r) => r.name },
            { id: '100', title: '100 g', numeric: true, cell: (r) => r.per100 },
            {
              id: 'bar',
              title: t('nutrition.bar', { mass: words.mass(barMg) }),
              numeric: true,
              cell: (r) => r.perBar,
            },
          ]}
        />
        <div>
          <Choice
            label={t('sold.market')}
            value={market}
            onChange={setMarket}
            options={(['EU', 'US'] as const).map((m) => ({ value: m, label: m }))}
          />
          <p className="my-2">
            {sold.name
              ? t('sold.as', {
                  name: [
                    t(`sold.${sold.name}` as 'sold.chocolate'),
                    ...(sweet ? [sweetenedWords(sweet, words.language)] : []),
                  ].join(', '),
                })
              : t('sold.none')}
          </p>
          <ul className="grid gap-2">
            {verdicts.map((v) => (
              <li key={v.rule.name} className="border-b border-line pb-1.5">
                <span className="flex flex-wrap items-center gap-2">
                  <strong>{t(`sold.${v.rule.name}` as 'sold.chocolate')}</strong>
                  <Chip tone={v.met ? 'ok' : 'plain'}>{t(v.met ? 'sold.met' : 'sold.not-met')}</Chip>
                </span>
                <span className="block text-[12.5px] text-ink-2">
                  {v.checks
                    .map(
                      (c) =>
                        `${t(`sold.figure.${c.figure}`)} ${words.number(c.value, 1)} % (${limitText(c, words)})${c.met ? '' : ' ▲'}`,
                    )
                    .join(' · ')}
                </span>
                <span className="block text-[12px] text-ink-3">{words.word('source', v.rule.source)}</span>
              </li>
            ))}
          </ul>
          <p className="mt-2 text-[12px] text-ink-3">{t('sold.advisory')}</p>
        </div>
      </div>
    </Panel>
  );
}

/** What a rule asks of a figure, in words. */
function limitText(
  { min, max, below }: { min?: number; max?: number; below?: number },
  words: Words,
): string {
  const number = (n: number) => words.number(n, n % 1 ? 2 : 0);
  if (min !== undefined) return words.t('sold.min', { n: number(min) });
  if (below !== undefined) return words.t('sold.below', { n: number(below) });
  return words.t('sold.max', { n: number(max ?? 0) });
}
