import { Timer } from 'lucide-react';
import { useState } from 'react';
import type { BatchView, StepRecord } from '@wunsch/contract';
import { Button } from '../../ui/Button.tsx';
import { Choice } from '../../ui/Field.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useDoor } from '../../shell/door.tsx';
import { useNow } from '../../shell/now.ts';
import { useDraft } from '../../shell/useDraft.ts';
import { useKept } from '../../shell/useKept.ts';
import { useWords } from '../../words/words.tsx';
import { StepPhotos } from '../StepPhotos.tsx';
import { useWork } from '../work.ts';

/** A set test: minutes to set, gloss and streaks of a dip. */
export function SetTest({ view, step }: { view: BatchView; step: StepRecord }) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const { now: clockNow } = useDoor();
  const { draft, change, keep } = useDraft<{ seconds: number | null }>({ seconds: null });
  const [gloss, setGloss] = useState<'even' | 'patchy' | 'dull'>('even');
  const [streaks, setStreaks] = useState<'no' | 'yes'>('no');
  const [begun, setBegun, forget] = useKept<number>(`setTest.${step.id}`);
  // The field is drawn anew when the clock writes into it.
  const [stopped, setStopped] = useState(0);
  const now = useNow(1000);
  const gone = begun === null ? 0 : Math.max(0, Math.round((now - begun) / 1000));
  const clock = `${Math.floor(gone / 60)}:${String(gone % 60).padStart(2, '0')}`;
  const tests = view.observations.filter((o) => o.stepId === step.id && o.data.kind === 'setTest');
  return (
    <Panel title={t('set-test')} aside={t('set-test.hint')}>
      <div className="grid gap-3">
        <div className="flex flex-wrap items-center gap-3">
          {begun === null ? (
            <Button icon={<Timer size={17} aria-hidden="true" />} onClick={() => setBegun(clockNow())}>
              {t('set-test.start')}
            </Button>
          ) : (
            <>
              <span className="num text-[30px] leading-none" role="timer" aria-label={t('set-test.running')}>
                {clock}
              </span>
              <Button
                look="main"
                onClick={() => {
                  change({ seconds: Math.max(1, Math.round((clockNow() - begun) / 1000)) });
                  setStopped(stopped + 1);
                  forget();
                }}
              >
                {t('set-test.set-now')}
              </Button>
            </>
          )}
        </div>
        <QuantityField
          key={stopped}
          label={t('set-test.minutes')}
          dimension="duration"
          value={draft.seconds}
          onChange={(seconds) => change({ seconds })}
          max={7200}
          optional
        />
        <Choice
          label={t('set-test.gloss')}
          value={gloss}
          options={(['even', 'patchy', 'dull'] as const).map((g) => ({ value: g, label: t(`gloss.${g}`) }))}
          onChange={setGloss}
        />
        <Choice
          label={t('set-test.streaks')}
          value={streaks}
          options={[
            { value: 'no', label: t('streaks.no') },
            { value: 'yes', label: t('streaks.yes') },
          ]}
          onChange={setStreaks}
        />
        <Button
          disabled={draft.seconds === null}
          onClick={() =>
            void keep(({ seconds }) =>
              work.observe(
                step.id,
                { kind: 'setTest', minutes: seconds! / 60, gloss, streaks: streaks === 'yes' },
                t('done.set-test'),
              ),
            )
          }
        >
          {t('set-test.log')}
        </Button>
        <p className="text-[12.5px] text-ink-3">{t('set-test.n', { n: tests.length })}</p>
        <StepPhotos batchId={view.batch.id} stepId={step.id} what={t('set-test')} />
      </div>
    </Panel>
  );
}
