import type { BatchView, StepRecord } from '@wunsch/contract';
import { Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';
import { handsOf } from './StepHands.tsx';
import { BalanceBar, StepLines } from './StepLedger.tsx';

/** What has been done at this station of a batch, each step with its weights, which can still be corrected. */
export function DoneSteps({ view, steps }: { view: BatchView; steps: readonly StepRecord[] }) {
  const { t, when } = useWords();
  if (steps.length === 0) return null;
  return (
    <div className="mt-2 grid gap-2">
      {steps.map((s, i) => (
        <Panel
          key={s.id}
          title={t('done-step', { station: t(`station.${s.station}`), n: i + 1 })}
          aside={`${when(s.startedAt)} – ${s.endedAt ? when(s.endedAt) : ''} ${handsOf(s).join(', ')}`}
        >
          <BalanceBar view={view} step={s} />
          <StepLines view={view} step={s} />
        </Panel>
      ))}
    </div>
  );
}
