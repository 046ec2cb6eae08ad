import type { BatchView, StepRecord } from '@wunsch/contract';
import { STIRRED, type Stirring } from '@wunsch/core/temper';
import { Choice } from '../../ui/Field.tsx';
import { useWords } from '../../words/words.tsx';
import { useWork } from '../work.ts';

/** How hard the bowl is stirred, said with one tap; steadily until somebody says otherwise. */
export function StirringChoice({ view, step }: { view: BatchView; step: StepRecord }) {
  const { t } = useWords();
  const work = useWork(view);
  const said = view.observations.flatMap((o) =>
    o.stepId === step.id && o.data.kind === 'stirring' ? [o.data.level] : [],
  );
  return (
    <div>
      <h3 className="mb-1 text-[13px] text-ink-3">{t('stirring')}</h3>
      <Choice
        label={t('stirring')}
        value={said.at(-1) ?? 'steady'}
        options={(Object.keys(STIRRED) as Stirring[]).map((level) => ({
          value: level,
          label: t(`stirring.${level}`),
        }))}
        onChange={(level) =>
          void work.observe(step.id, { kind: 'stirring', level }, t(`stirring.${level}.done`))
        }
      />
    </div>
  );
}
