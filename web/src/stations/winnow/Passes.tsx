import { useState } from 'react';
import type { BatchView, StepRecord } from '@wunsch/contract';
import { Button } from '../../ui/Button.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useDraft } from '../../shell/useDraft.ts';
import { useWords } from '../../words/words.tsx';
import { useWork } from '../work.ts';

/** Passes through the winnower: the air setting of each, and the minutes it took. */
export function Passes({ view, step }: { view: BatchView; step: StepRecord }) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const passes = view.observations.flatMap((o) =>
    o.stepId === step.id && o.data.kind === 'pass' ? [{ ...o, data: o.data }] : [],
  );
  const [setting, setSetting] = useState<number | null>(passes.at(-1)?.data.setting ?? null);
  const { draft, change, keep } = useDraft<{ minutes: number | null }>({ minutes: null });
  return (
    <section className="my-3">
      <h3 className="mb-1 text-[15px]">{t('pass.title')}</h3>
      {passes.length > 0 && (
        <ol className="mb-2 flex flex-wrap gap-2">
          {passes.map((p, i) => (
            <li key={p.id} className="rounded border border-line px-3 py-1.5 text-[13px]">
              <strong>{i + 1}</strong>{' '}
              {p.data.setting !== null &&
                t('pass.at', { setting: words.number(p.data.setting, p.data.setting % 1 ? 1 : 0) })}
              {p.data.minutes !== null && `, ${words.number(p.data.minutes)} min`}
            </li>
          ))}
        </ol>
      )}
      <form
        className="flex flex-wrap items-end gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          void keep(({ minutes }) =>
            work.observe(
              step.id,
              { kind: 'pass', setting, minutes },
              t('done.pass', { n: passes.length + 1 }),
            ),
          );
        }}
      >
        <QuantityField
          label={t('pass.setting')}
          dimension="number"
          value={setting}
          onChange={setSetting}
          min={0.1}
          max={1000}
          optional
          className="w-40"
        />
        <QuantityField
          label={t('pass.minutes')}
          dimension="count"
          value={draft.minutes}
          onChange={(minutes) => change({ minutes })}
          min={0}
          max={10_000}
          optional
          className="w-32"
        />
        <Button type="submit">{t('pass.take')}</Button>
      </form>
    </section>
  );
}
