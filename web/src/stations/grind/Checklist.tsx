import { BellRing, Check } from 'lucide-react';
import { useState } from 'react';
import type { BatchView, GrindView, StepRecord } from '@wunsch/contract';
import { nibFatOf } from '@wunsch/core/beans';
import {
  additionKind,
  orderNotes,
  planAdditions,
  type PlannedAddition,
  type SugarSchool,
} from '@wunsch/core/grind';
import { timesRecipe } from '@wunsch/core/recipe';
import { useDoor } from '../../shell/door.tsx';
import { newId } from '../../shell/entry.ts';
import { useNow } from '../../shell/now.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { Choice } from '../../ui/Field.tsx';
import { Chip } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import {
  bowlAt,
  ingredientOf,
  isWeighedIn,
  linesWith,
  useIngredients,
  WeighPlanned,
} from '../recipe/index.ts';
import { linesOf, useWork } from '../work.ts';

const HOUR = 3_600_000;

/** The additions of the recipe in the order and at the hours they join, each with its weight, a bell, and a tick once weighed in. */
export function Checklist({ view, step, grind }: { view: BatchView; step: StepRecord; grind: GrindView }) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const send = useEntryHere();
  const ingredients = useIngredients();
  const { now: clock } = useDoor();
  const now = useNow(30_000);
  const [adding, setAdding] = useState<(PlannedAddition & { missingMg: number }) | null>(null);
  const { lines: bowl } = bowlAt(view, step.id);
  const planned = view.recipe ? linesWith(view.recipe.lines, ingredients, nibFatOf(view.lot)) : [];
  const factor = timesRecipe(bowl, planned);
  const scaled = planned.map((l) => ({ ...l, massMg: Math.round(l.massMg * factor) }));
  const school = step.details.sugarSchool ?? 'late';
  const started = Date.parse(step.startedAt);
  const endsAt = grind.forecast?.aimAt ? Date.parse(grind.forecast.aimAt.at) : null;
  const inBowl = (id: string) => bowl.filter((l) => l.ingredient.id === id).reduce((s, l) => s + l.massMg, 0);
  // What the recipe's own bowl already holds counts towards the plan, first things first.
  const left = new Map(scaled.map((l) => [l.ingredient.id, inBowl(l.ingredient.id)]));
  const items = planAdditions(scaled, school).map((item) => {
    const have = left.get(item.ingredientId) ?? 0;
    left.set(item.ingredientId, Math.max(0, have - item.massMg));
    const at =
      item.from === 'start'
        ? started + item.atHours * HOUR
        : endsAt === null
          ? null
          : endsAt - item.atHours * HOUR;
    return { ...item, done: isWeighedIn(have, item.massMg), missingMg: Math.max(0, item.massMg - have), at };
  });
  const made = linesOf(view, step.id)
    .filter((m) => m.direction === 'in')
    .map((m) => {
      const ingredient = ingredientOf(m, ingredients);
      return {
        ingredientId: m.ingredientId ?? '',
        kind: ingredient ? additionKind(ingredient) : ('nibs' as const),
        hours: (Date.parse(m.at) - started) / HOUR,
      };
    });
  const notes = orderNotes(made, endsAt === null ? null : (endsAt - started) / HOUR);
  const open = items.filter((i) => !i.done && i.kind !== 'nibs');
  if (view.recipe && ingredients.size === 0) return <p className="text-ink-3">{t('loading')}</p>;
  if (planned.length === 0) return <p className="text-ink-3">{t('checklist.no-recipe')}</p>;
  const ring = async () => {
    for (const item of open)
      if (item.at !== null && item.at > clock())
        await send({
          path: `/api/observations/${newId()}`,
          body: {
            batchId: view.batch.id,
            stepId: step.id,
            data: {
              kind: 'timer',
              label: t('checklist.bell', {
                what: words.word('ingredient', ingredients.get(item.ingredientId)?.name ?? ''),
                mass: words.mass(item.missingMg),
              }),
              dueAt: new Date(item.at).toISOString(),
            },
          },
          label: t('done.timer'),
          batchId: view.batch.id,
          undo: true,
        });
  };
  return (
    <div>
      <div className="mb-2 flex flex-wrap items-center justify-between gap-2">
        <Choice
          label={t('checklist.school')}
          value={school}
          onChange={(v: SugarSchool) => void work.details(step, { sugarSchool: v }).catch(() => undefined)}
          options={(['early', 'late'] as const).map((k) => ({ value: k, label: t(`checklist.${k}`) }))}
        />
        {open.some((i) => i.at !== null && i.at > now) && (
          <Button
            icon={<BellRing size={16} aria-hidden="true" />}
            onClick={() => void ring().catch(() => undefined)}
          >
            {t('checklist.ring')}
          </Button>
        )}
      </div>
      <ol>
        {items.map((item, i) => {
          const name = words.word('ingredient', ingredients.get(item.ingredientId)?.name ?? '');
          const due = !item.done && item.kind !== 'nibs' && item.at !== null && item.at <= now;
          return (
            <li key={i} className="flex min-h-12 flex-wrap items-center gap-3 border-b border-line py-1">
              <span
                className={`grid size-6 shrink-0 place-items-center rounded border ${item.done ? 'border-ok bg-ok-tint text-ok' : 'border-edge'}`}
                aria-hidden="true"
              >
                {item.done && <Check size={16} />}
              </span>
              <span className="min-w-0 grow">
                <span className="font-semibold">{name}</span>{' '}
                <span className="text-[12.5px] text-ink-3">{t(`checklist.kind.${item.kind}`)}</span>
                <span className="block text-[12px] text-ink-3">
                  {item.done
                    ? t('checklist.in')
                    : item.at === null
                      ? t('checklist.before-end', { hours: item.atHours })
                      : words.when(new Date(item.at).toISOString())}
                </span>
              </span>
              {due && <Chip tone="due">{t('checklist.due')}</Chip>}
              <span className="num text-[16px]">{words.mass(item.done ? item.massMg : item.missingMg)}</span>
              {!item.done && item.kind !== 'nibs' && (
                <Button look={due ? 'main' : 'plain'} onClick={() => setAdding(item)}>
                  {t('weigh.this', { what: name })}
                </Button>
              )}
            </li>
          );
        })}
      </ol>
      {notes.map((n, i) => (
        <p key={i} className="mt-2">
          <Chip tone="bad">
            {t(`order.${n.code}`, {
              what: words.word('ingredient', ingredients.get(n.ingredientId)?.name ?? ''),
            })}
          </Chip>
        </p>
      ))}
      {adding && (
        <WeighPlanned
          ingredient={ingredients.get(adding.ingredientId)!}
          missingMg={adding.missingMg}
          onWeight={(mg) => work.add(step.id, ingredients.get(adding.ingredientId)!, mg)}
          onClose={() => setAdding(null)}
        />
      )}
    </div>
  );
}
