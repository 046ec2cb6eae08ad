import { Check } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { BatchBrief, BenchView, ClassBrief, Lot, PickingRecord } from '@wunsch/contract';
import { useRead } from '../shell/door.tsx';
import { useMayMake, useSession } from '../shell/session.tsx';
import { Button } from '../ui/Button.tsx';
import { Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';
import { firstSteps } from './firstSteps.ts';

const AWAY = 'wunsch.first-steps';

function isAway(): boolean {
  try {
    return localStorage.getItem(AWAY) === 'away';
  } catch {
    return false;
  }
}

/** Leads an empty workshop to its first tasted bar: what is done, what comes now and why, what is ahead. */
export function FirstSteps({ bench }: { bench: BenchView }) {
  const { t } = useWords();
  const mayMake = useMayMake();
  const { workshop } = useSession();
  const [away, setAway] = useState(isAway);
  const asked = mayMake && !away && bench.batches.length <= 2;
  const { data: lots } = useRead<Lot[]>(asked ? '/api/lots' : null);
  const { data: batches } = useRead<BatchBrief[]>(asked ? '/api/batches?limit=500' : null);
  const { shape } = workshop;
  const { data: pickings } = useRead<PickingRecord[]>(asked && shape === 'estate' ? '/api/pickings' : null);
  const { data: classes } = useRead<ClassBrief[]>(asked && shape === 'school' ? '/api/classes' : null);
  if (!asked || !lots || !batches) return null;
  if ((shape === 'estate' && !pickings) || (shape === 'school' && !classes)) return null;
  const steps = firstSteps({
    shape,
    lots,
    batches,
    bench: bench.batches,
    picked: Boolean(pickings?.length),
    planned: Boolean(classes?.length),
  });
  if (!steps) return null;
  const put = () => {
    try {
      localStorage.setItem(AWAY, 'away');
    } catch {
      // A browser that keeps nothing shows them again.
    }
    setAway(true);
  };
  const done = steps.filter((s) => s.state === 'done').length;
  return (
    <div className="px-3 pt-3">
      <Panel
        title={t('steps')}
        aside={
          <Button look="quiet" onClick={put}>
            {t('steps.away')}
          </Button>
        }
      >
        {done === steps.length ? (
          <p className="text-[14px]">{t('steps.all', { of: steps.length })}</p>
        ) : (
          <>
            <p className="mb-3 text-[13px] text-ink-3">{t('steps.done', { n: done, of: steps.length })}</p>
            <ol className="grid gap-x-6 sm:grid-cols-2">
              {steps.map((s, i) => (
                <li
                  key={s.id}
                  aria-current={s.state === 'now' ? 'step' : undefined}
                  className={`grid grid-cols-[32px_minmax(0,1fr)] gap-2 border-b border-line py-2 ${s.state === 'now' ? 'sm:col-span-2 bg-violet-tint px-2' : ''}`}
                >
                  <span
                    aria-hidden="true"
                    className={`num mt-0.5 grid size-7 place-items-center rounded-full border text-[13px] ${s.state === 'done' ? 'border-violet bg-violet text-white' : 'border-edge'}`}
                  >
                    {s.state === 'done' ? <Check size={15} /> : i + 1}
                  </span>
                  <span>
                    {s.state === 'ahead' ? (
                      <span className="block py-1 text-[14px] text-ink-3">{t(`steps.${s.id}`)}</span>
                    ) : (
                      <Link
                        to={s.to}
                        className="inline-flex min-h-9 items-center text-[14px] font-semibold underline underline-offset-4"
                      >
                        {t(`steps.${s.id}`)}
                      </Link>
                    )}
                    {s.state === 'done' && <span className="sr-only">{t('steps.is-done')}</span>}
                    {s.state === 'now' && (
                      <span className="block max-w-[72ch] text-[13.5px]">{t(`steps.${s.id}.text`)}</span>
                    )}
                  </span>
                </li>
              ))}
            </ol>
          </>
        )}
      </Panel>
    </div>
  );
}
