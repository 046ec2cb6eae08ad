import { useState } from 'react';
import type { BatchView, StepRecord } from '@wunsch/contract';
import { Button } from '../../ui/Button.tsx';
import { Choice } from '../../ui/Field.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useDraft } from '../../shell/useDraft.ts';
import { useWords } from '../../words/words.tsx';
import { useWork } from '../work.ts';

/** A grit reading by micrometer, grindometer or tongue. */
export function GritReading({ view, step }: { view: BatchView; step: StepRecord }) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const [method, setMethod] = useState<'micrometer' | 'grindometer' | 'tongue'>('micrometer');
  const { draft, change, keep } = useDraft<{ um: number | null; scratch: number | null }>({
    um: null,
    scratch: null,
  });
  const { um, scratch } = draft;
  const save = (data: object, label: string) =>
    void keep(() => work.observe(step.id, { kind: 'grit', method, ...data }, label));
  return (
    <form
      className="grid gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (um !== null)
          save(
            { um, scratchUm: method === 'grindometer' ? scratch : null },
            t('entry.grit', { um: words.number(um, um % 1 ? 1 : 0) }),
          );
      }}
    >
      <Choice
        label={t('grit.method')}
        value={method}
        options={(['micrometer', 'grindometer', 'tongue'] as const).map((m) => ({
          value: m,
          label: t(`grit.${m}`),
        }))}
        onChange={setMethod}
      />
      {method === 'tongue' ? (
        <div className="flex flex-wrap gap-2">
          {(['none', 'hint', 'gritty'] as const).map((w) => (
            <Button
              key={w}
              onClick={() => save({ tongue: w }, t('entry.tongue', { word: t(`tongue.${w}`) }))}
            >
              {t(`tongue.${w}`)}
            </Button>
          ))}
        </div>
      ) : (
        <div className="flex flex-wrap items-end gap-2">
          <QuantityField
            label={t(method === 'grindometer' ? 'grit.dense' : 'grit.reading')}
            dimension="length"
            value={um}
            onChange={(next) => change({ um: next })}
            min={2}
            max={2000}
            optional
            className="w-36"
          />
          {method === 'grindometer' && (
            <QuantityField
              label={t('grit.scratch')}
              dimension="length"
              value={scratch}
              onChange={(next) => change({ scratch: next })}
              min={2}
              max={3000}
              optional
              className="w-36"
            />
          )}
          <Button type="submit" look="main" disabled={um === null} data-key="r">
            {t('take-reading')}
          </Button>
        </div>
      )}
    </form>
  );
}
