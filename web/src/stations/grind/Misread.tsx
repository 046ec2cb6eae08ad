import type { BatchView, GrindView, StepRecord } from '@wunsch/contract';
import { useWords } from '../../words/words.tsx';
import { PutRight } from '../PutRight.tsx';
import { useWork } from '../work.ts';

/** Readings stones cannot have done: named, left out of the forecast, and put right here. */
export function Misread({ view, step, grind }: { view: BatchView; step: StepRecord; grind: GrindView }) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  return grind.readings
    .filter((r) => r.isMisread)
    .map((r) => {
      const said = view.observations.find((o) => o.id === r.id)?.data;
      const amount = (um: number) => words.number(um, um % 1 ? 1 : 0);
      return (
        <PutRight
          key={r.id}
          text={t('grind.misread', { um: amount(r.um), when: words.when(r.at) })}
          label={t('grind.misread.was')}
          submit={t('grind.misread.correct')}
          field={{ dimension: 'length', min: 2, max: 2000 }}
          may={said?.kind === 'grit' && said.method !== 'tongue'}
          onRight={async (um) => {
            if (said?.kind !== 'grit') return;
            const label = t('entry.grit', { um: amount(um) });
            await work.observe(step.id, { ...said, um, scratchUm: null }, label, r.at, r.id);
          }}
        />
      );
    });
}
