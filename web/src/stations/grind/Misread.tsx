import { useState } from 'react';
import type { BatchView, GrindView, StepRecord } from '@wunsch/contract';
import { Button } from '../../ui/Button.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { useWork } from '../work.ts';

/** Readings stones cannot have done: named, left out of the forecast, and put right here. */
export function Misread({ view, step, grind }: { view: BatchView; step: StepRecord; grind: GrindView }) {
  return grind.readings
    .filter((r) => r.isMisread)
    .map((r) => <Correct key={r.id} view={view} step={step} reading={r} />);
}

function Correct({
  view,
  step,
  reading,
}: {
  view: BatchView;
  step: StepRecord;
  reading: GrindView['readings'][number];
}) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const [um, setUm] = useState<number | null>(null);
  const said = view.observations.find((o) => o.id === reading.id)?.data;
  const amount = words.number(reading.um, reading.um % 1 ? 1 : 0);
  return (
    <form
      className="mt-3 rounded border border-bad bg-bad-tint p-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (um === null || said?.kind !== 'grit') return;
        const label = t('entry.grit', { um: words.number(um, um % 1 ? 1 : 0) });
        void work
          .observe(step.id, { ...said, um, scratchUm: null }, label, reading.at, reading.id)
          .catch(() => undefined);
      }}
    >
      <p role="status" className="text-[13.5px] text-bad">
        {t('grind.misread', { um: amount, when: words.when(reading.at) })}
      </p>
      {said?.kind === 'grit' && said.method !== 'tongue' && (
        <div className="mt-1 flex flex-wrap items-end gap-2">
          <QuantityField
            label={t('grind.misread.was')}
            dimension="length"
            value={um}
            onChange={setUm}
            min={2}
            max={2000}
            optional
            className="w-36"
          />
          <Button type="submit" disabled={um === null}>
            {t('grind.misread.correct')}
          </Button>
        </div>
      )}
    </form>
  );
}
