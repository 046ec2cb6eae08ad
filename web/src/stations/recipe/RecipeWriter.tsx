import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import type { Recipe } from '@wunsch/contract';
import { adjustToCacao, type CacaoSchool } from '@wunsch/core/recipe';
import { newId } from '../../shell/entry.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { useSession } from '../../shell/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Choice, SelectField, TextField } from '../../ui/Field.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { Figures } from './Figures.tsx';
import { linesWith, useIngredients } from './useIngredients.ts';

/** Writes a recipe in grams with its true figures, and says what to weigh for a wanted cacao % from the nibs there are. */
export function RecipeWriter({
  from,
  beansMg,
  nibFat,
  onSaved,
}: {
  from: Recipe | null;
  beansMg?: number;
  nibFat?: number | null;
  onSaved: (id: string) => void;
}) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const ingredients = useIngredients();
  const { cacaoSchool } = useSession().workshop;
  const all = [...ingredients.values()];
  const starter = () => {
    const id = (key: string) => all.find((i) => i.key === key)?.id ?? '';
    return [
      { ingredientId: id('nibs'), massMg: beansMg ?? 7_000_000 },
      { ingredientId: id('cane-sugar'), massMg: Math.round(((beansMg ?? 7_000_000) * 3) / 7) },
    ];
  };
  const [lines, setLines] = useState<{ ingredientId: string; massMg: number }[] | null>(from?.lines ?? null);
  const [name, setName] = useState(from?.name ?? '');
  const [kind, setKind] = useState<Recipe['kind']>(from?.kind ?? 'dark');
  const [percent, setPercent] = useState<number | null>(70);
  const [school, setSchool] = useState<CacaoSchool>(cacaoSchool);
  const [problem, setProblem] = useState<string | null>(null);
  if (all.length === 0) return <p className="text-ink-3">{t('loading')}</p>;
  const now = lines ?? starter();
  const bowl = linesWith(now, ingredients, nibFat ?? null);
  const change = (index: number, part: Partial<(typeof now)[number]>) =>
    setLines(now.map((l, i) => (i === index ? { ...l, ...part } : l)));
  const adjust = () => {
    if (percent === null) return;
    const answer = adjustToCacao({ lines: bowl, percent, school, ...(beansMg && { beansMg }) });
    if (answer.ok) {
      setProblem(null);
      setLines(answer.lines.map((l, i) => ({ ingredientId: now[i]!.ingredientId, massMg: l.massMg })));
    } else setProblem(t(`adjust.${answer.reason}`, { percent: words.number(answer.nearestPercent, 1) }));
  };
  const save = async () => {
    const id = newId();
    await send({
      path: `/api/recipes/${id}`,
      body: {
        name: name.trim() || t('recipe.unnamed'),
        kind,
        lines: now.filter((l) => l.massMg > 0),
        follows: from?.id ?? null,
      },
      label: t('done.recipe'),
    });
    onSaved(id);
  };
  return (
    <div className="grid gap-2 lg:grid-cols-[1.3fr_1fr]">
      <Panel
        title={from ? t('recipe.next-version', { name: from.name, n: from.number + 1 }) : t('recipe.write')}
      >
        <div className="mb-3 grid gap-3 sm:grid-cols-2">
          <TextField
            label={t('recipe.name')}
            value={name}
            onChange={(e) => setName(e.target.value)}
            maxLength={120}
          />
          <SelectField
            label={t('recipe.kind')}
            value={kind}
            onChange={(e) => setKind(e.target.value as Recipe['kind'])}
          >
            {(['dark', 'milk', 'white'] as const).map((k) => (
              <option key={k} value={k}>
                {t(`kind.${k}`)}
              </option>
            ))}
          </SelectField>
        </div>
        <ul className="grid gap-2">
          {now.map((l, i) => (
            <li key={i} className="grid grid-cols-[1fr_130px_44px] items-end gap-2">
              <SelectField
                label={t('ingredient')}
                value={l.ingredientId}
                onChange={(e) => change(i, { ingredientId: e.target.value })}
              >
                {all.map((x) => (
                  <option key={x.id} value={x.id}>
                    {words.word('ingredient', x.name)}
                  </option>
                ))}
              </SelectField>
              <QuantityField
                label={t('weight')}
                dimension="mass"
                value={l.massMg}
                onChange={(v) => v !== null && change(i, { massMg: v })}
                max={100_000_000_000}
              />
              <button
                type="button"
                aria-label={t('recipe.remove', { name: ingredients.get(l.ingredientId)?.name ?? '' })}
                disabled={now.length < 2}
                onClick={() => setLines(now.filter((_, k) => k !== i))}
                className="grid size-11 place-items-center rounded hover:bg-violet-tint disabled:opacity-40"
              >
                <Trash2 size={17} aria-hidden="true" />
              </button>
            </li>
          ))}
        </ul>
        <div className="mt-3 flex flex-wrap gap-2">
          <Button
            icon={<Plus size={16} aria-hidden="true" />}
            onClick={() =>
              setLines([
                ...now,
                {
                  ingredientId: all.find((x) => !now.some((l) => l.ingredientId === x.id))?.id ?? all[0]!.id,
                  massMg: 100_000,
                },
              ])
            }
          >
            {t('recipe.add')}
          </Button>
          <Button look="main" onClick={() => void save().catch(() => undefined)}>
            {t('recipe.save')}
          </Button>
        </div>
      </Panel>
      <div className="grid content-start gap-2">
        <Panel title={t('figures')}>
          <Figures lines={bowl} />
        </Panel>
        <Panel
          title={t('adjust')}
          aside={beansMg ? t('adjust.for', { mass: words.mass(beansMg) }) : undefined}
        >
          <div className="grid gap-3">
            <Choice
              label={t('adjust.school')}
              value={school}
              options={[
                { value: 'all', label: t('figures.all') },
                { value: 'beans', label: t('figures.beans') },
              ]}
              onChange={setSchool}
            />
            <QuantityField
              label={t('adjust.wanted')}
              dimension="percent"
              value={percent}
              onChange={setPercent}
              min={1}
              max={100}
            />
            <Button onClick={adjust} disabled={percent === null}>
              {t('adjust.do')}
            </Button>
            {problem && (
              <p role="alert" className="text-bad">
                {problem}
              </p>
            )}
          </div>
        </Panel>
      </div>
    </div>
  );
}
