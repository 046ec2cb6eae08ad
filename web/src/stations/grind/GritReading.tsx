import { useState } from 'react';
import type { BatchView, StepRecord } from '@wunsch/contract';
import { Button } from '../../ui/Button.tsx';
import { Choice } from '../../ui/Field.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { useWork } from '../work.ts';

/** A grit reading by micrometer, grindometer or tongue. */
export function GritReading({ view, step }: { view: BatchView; step: StepRecord }) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const [method, setMethod] = useState<'micrometer' | 'grindometer' | 'tongue'>('micrometer');
  const [um, setUm] = useState<number | null>(null);
  const [scratch, setScratch] = useState<number | null>(null);
  const [round, setRound] = useState(0);
  const save = (data: object, label: string) =>
    void work.observe(step.id, { kind: 'grit', method, ...data }, label).then(
      () => {
        setUm(null);
        setScratch(null);
        setRound((r) => r + 1);
      },
      () => undefined,
    );
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
        <div key={round} className="flex flex-wrap items-end gap-2">
          <QuantityField
            label={t(method === 'grindometer' ? 'grit.dense' : 'grit.reading')}
            dimension="length"
            value={um}
            onChange={setUm}
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
              onChange={setScratch}
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
