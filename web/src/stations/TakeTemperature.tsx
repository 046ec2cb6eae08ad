import type { ReactNode } from 'react';
import type { BatchView, Place, StepRecord } from '@wunsch/contract';
import { useDraft } from '../shell/useDraft.ts';
import { Button } from '../ui/Button.tsx';
import { QuantityField } from '../ui/QuantityField.tsx';
import { useWords } from '../words/words.tsx';
import { useWork } from './work.ts';

/** Typing in a temperature a hand has read; what else may be done stands beside it. */
export function TakeTemperature({
  view,
  step,
  place,
  label,
  min,
  max,
  shortcut,
  className = '',
  children,
}: {
  view: BatchView;
  step: StepRecord;
  place: Place;
  label: string;
  min: number;
  max: number;
  /** Key that takes the reading, where no other form of the page has it. */
  shortcut?: string;
  className?: string;
  children?: ReactNode;
}) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const { draft, change, keep } = useDraft<{ celsius: number | null }>({ celsius: null });
  return (
    <form
      className={`flex flex-wrap items-end gap-2 ${className}`}
      onSubmit={(e) => {
        e.preventDefault();
        const { celsius } = draft;
        if (celsius === null) return;
        void keep(() =>
          work.observe(
            step.id,
            { kind: 'temperature', place, celsius },
            t('done.temperature', { temperature: words.temperature(celsius) }),
          ),
        );
      }}
    >
      <QuantityField
        label={label}
        dimension="temperature"
        value={draft.celsius}
        onChange={(celsius) => change({ celsius })}
        min={min}
        max={max}
        optional
        className="w-44"
      />
      <Button type="submit" disabled={draft.celsius === null} data-key={shortcut}>
        {t('take-reading')}
      </Button>
      {children}
    </form>
  );
}
