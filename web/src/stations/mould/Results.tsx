import { ChevronRight } from 'lucide-react';
import { useState } from 'react';
import type { BatchView, StepRecord } from '@wunsch/contract';
import { Button } from '../../ui/Button.tsx';
import { Choice, TextField } from '../../ui/Field.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import { BowlReasons } from '../temper/index.ts';
import { StepPhotos } from '../StepPhotos.tsx';
import { useWork } from '../work.ts';
import { bowlOf } from './useMoulding.ts';

const POINTS = ['1', '2', '3', '4', '5'] as const;

/** Below this, of 5, a result asks for its reasons. */
const POOR = 3;

function Result({ view, step }: { view: BatchView; step: StepRecord }) {
  const { t } = useWords();
  const work = useWork(view);
  const [gloss, setGloss] = useState<(typeof POINTS)[number] | null>(null);
  const [snap, setSnap] = useState<(typeof POINTS)[number] | null>(null);
  const [release, setRelease] = useState<(typeof POINTS)[number] | null>(null);
  const [bloom, setBloom] = useState<'no' | 'yes'>('no');
  const [note, setNote] = useState('');
  const seen = view.observations.flatMap((o) =>
    o.stepId === step.id && o.data.kind === 'result' ? [o.data] : [],
  );
  const bowl = bowlOf(view, step);
  const poor = seen.some((r) => r.bloom || Math.min(r.gloss, r.snap, r.release) < POOR);
  const points = POINTS.map((value) => ({ value, label: value }));
  return (
    <li className="border-b border-line py-3 last:border-0">
      <h3 className="num text-[17px]">{step.details.barCode ?? view.batch.code}</h3>
      {seen.map((r, i) => (
        <p key={i} className="text-[13.5px] text-ink-2">
          {t('result.line', { gloss: r.gloss, snap: r.snap, release: r.release })}
          {r.bloom && <span className="ml-2 font-semibold text-bad">▲ {t('result.bloomed')}</span>}
          {r.note && <span className="block">{r.note}</span>}
        </p>
      ))}
      {poor && bowl && (
        <div className="mt-2 rounded border border-line bg-panel-2 p-3">
          <h4 className="text-[13px] font-semibold">{t('result.reasons')}</h4>
          <BowlReasons view={view} step={bowl} />
        </div>
      )}
      <div className="mt-1">
        <StepPhotos batchId={view.batch.id} stepId={step.id} what={step.details.barCode ?? view.batch.code} />
      </div>
      <details className="group mt-1">
        <summary className="flex min-h-11 cursor-pointer items-center gap-1 text-[13.5px] font-semibold">
          <ChevronRight size={17} aria-hidden="true" className="group-open:rotate-90" />
          {t(seen.length > 0 ? 'result.again' : 'result.enter')}
        </summary>
        <form
          className="grid gap-3 pt-2"
          onSubmit={(e) => {
            e.preventDefault();
            if (!gloss || !snap || !release) return;
            void work
              .observe(
                step.id,
                {
                  kind: 'result',
                  gloss: Number(gloss),
                  snap: Number(snap),
                  release: Number(release),
                  bloom: bloom === 'yes',
                  note: note.trim(),
                },
                t('result.done'),
              )
              .then(
                () => setNote(''),
                () => undefined,
              );
          }}
        >
          {(
            [
              ['gloss', gloss, setGloss],
              ['snap', snap, setSnap],
              ['release', release, setRelease],
            ] as const
          ).map(([what, value, set]) => (
            <div key={what}>
              <h4 className="mb-1 text-[13px] text-ink-3">{t(`result.${what}`)}</h4>
              <Choice label={t(`result.${what}`)} value={value} options={points} onChange={set} />
            </div>
          ))}
          <div>
            <h4 className="mb-1 text-[13px] text-ink-3">{t('result.bloom')}</h4>
            <Choice
              label={t('result.bloom')}
              value={bloom}
              options={[
                { value: 'no', label: t('result.bloom.no') },
                { value: 'yes', label: t('result.bloom.yes') },
              ]}
              onChange={setBloom}
            />
          </div>
          <TextField
            label={t('result.note')}
            value={note}
            onChange={(e) => setNote(e.target.value)}
            maxLength={400}
          />
          <Button type="submit" disabled={!gloss || !snap || !release}>
            {t('result.save')}
          </Button>
        </form>
      </details>
    </li>
  );
}

/** How the bars came out, looked at when they are knocked out or days later, with what their bowl's own log offers as reasons. */
export function Results({ view, steps }: { view: BatchView; steps: readonly StepRecord[] }) {
  const { t } = useWords();
  if (steps.length === 0) return null;
  return (
    <Panel title={t('results')} aside={t('results.hint')} className="mt-2">
      <ul>
        {steps.map((s) => (
          <Result key={s.id} view={view} step={s} />
        ))}
      </ul>
    </Panel>
  );
}
