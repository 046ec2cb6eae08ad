import { useMemo } from 'react';
import type { BatchView, IngredientRecord, MachineBefore, StepRecord } from '@wunsch/contract';
import { carriedOver } from '@wunsch/core/grind';
import { useRead } from '../shell/door.tsx';
import { newId } from '../shell/entry.ts';
import { useMayMake, useSession } from '../shell/session.tsx';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { Button } from '../ui/Button.tsx';
import { useWords } from '../words/words.tsx';

/** Allergens in a batch: of what has gone into it, and of what its recipe will bring. */
function useAllergens({ allergens, recipe }: Pick<BatchView, 'allergens' | 'recipe'>): readonly string[] {
  const { data } = useRead<IngredientRecord[]>(recipe ? '/api/ingredients' : null);
  return useMemo(() => {
    const planned = new Set(recipe?.lines.flatMap((l) => (l.massMg > 0 ? [l.ingredientId] : [])));
    return [...allergens, ...(data ?? []).flatMap((i) => (planned.has(i.id) ? i.allergens : []))];
  }, [allergens, recipe, data]);
}

/** A minute before a run: what is said only once it has begun was done by then, ms. */
const JUST_BEFORE = 60_000;

/**
 * What a machine held before a batch that does not hold it, where no cleaning is noted since and the workshop’s labels do not speak of it: said once,
 * above the work, with the way to note the cleaning.
 */
export function CarriedOver({
  view,
  machineId,
  step,
}: {
  view: BatchView;
  machineId: string | null | undefined;
  /** The run, once it has begun. */
  step?: Pick<StepRecord, 'startedAt'>;
}) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const mayMake = useMayMake();
  const { traces } = useSession().workshop;
  const own = useAllergens(view);
  const at = step ? `&at=${encodeURIComponent(step.startedAt)}` : '';
  const { data: before } = useRead<MachineBefore>(
    machineId ? `/api/machine-before?machine=${machineId}${at}` : null,
  );
  const left = carriedOver(before?.runs ?? [], [...own, ...traces]);
  if (!before || left.length === 0) return null;
  const { machine } = before;
  const clean = () =>
    send({
      path: `/api/machine-events/${newId()}`,
      body: {
        machineId,
        kind: 'cleaned',
        ...(step && { at: new Date(Date.parse(step.startedAt) - JUST_BEFORE).toISOString() }),
      },
      label: `${machine}: ${t('machine.done.cleaned')}`,
      undo: true,
    });
  return (
    <section
      aria-label={t('carried')}
      className="mb-2 flex flex-wrap items-center gap-3 border-l-4 border-bad bg-bad-tint px-3 py-2 text-[13.5px]"
    >
      <p className="min-w-60 grow basis-0">
        <strong>
          ▲{' '}
          {t('carried.held', {
            machine,
            list: left
              .map(({ allergen, batchCode, at: when }) =>
                t('carried.one', {
                  allergen: words.word('allergen', allergen),
                  batch: [batchCode, words.day(when)].filter(Boolean).join(', '),
                }),
              )
              .join(', '),
          })}
        </strong>{' '}
        {t('carried.text')}
      </p>
      {mayMake && <Button onClick={() => void clean().catch(() => undefined)}>{t('carried.cleaned')}</Button>}
    </section>
  );
}
