import { BellRing } from 'lucide-react';
import { lazy, Suspense, useEffect, useState } from 'react';
import { Link, useLocation } from 'react-router';
import type { BenchView, RoastRecord } from '@wunsch/contract';
import { useRead } from './door.tsx';
import { useWords } from '../words/words.tsx';
import { ring } from './bell.ts';
import type { WatchState } from '../stations/roast/watchState.ts';

const Watcher = lazy(() => import('../stations/roast/Watcher.tsx'));

/** Keeps an eye on every roast that runs, whatever screen is open: a bell and a line of words when one needs a hand. */
export function RoastWatch({ bench }: { bench: BenchView | undefined }) {
  const roasting = (bench?.running ?? []).filter((r) => r.station === 'roast');
  const ids = roasting.map((r) => r.stepId).join(',');
  const { data } = useRead<RoastRecord[]>(ids ? `/api/roasts?ids=${ids}&width=10` : null);
  const [states, setStates] = useState<Record<string, WatchState>>({});
  const [quiet, setQuiet] = useState<readonly string[]>([]);
  const { t } = useWords();
  const { pathname } = useLocation();
  const loud = roasting.flatMap((r) => {
    const state = states[r.stepId];
    if (!state || state.texts.length === 0) return [];
    const key = `${r.stepId} ${state.codes}`;
    return quiet.includes(key) ? [] : [{ ...r, key, texts: state.texts }];
  });
  const elsewhere = loud.filter((r) => pathname !== `/roast/${r.batchId}`);
  const key = loud.map((r) => r.key).join();
  useEffect(() => {
    if (key === '') return;
    ring();
    const again = setInterval(ring, 30_000);
    return () => clearInterval(again);
  }, [key]);
  return (
    <>
      <Suspense fallback={null}>
        {(data ?? []).map((record) => (
          <Watcher
            key={record.step.id}
            record={record}
            onState={(state) =>
              setStates((all) =>
                all[record.step.id]?.codes === state.codes &&
                all[record.step.id]?.texts.join() === state.texts.join()
                  ? all
                  : { ...all, [record.step.id]: state },
              )
            }
          />
        ))}
      </Suspense>
      {elsewhere.length > 0 && (
        <div
          role="alert"
          className="no-print fixed bottom-3 left-3 z-50 grid w-[min(380px,calc(100vw-24px))] gap-2"
        >
          {elsewhere.map((r) => (
            <div
              key={r.stepId}
              className="flex min-h-12 items-center gap-3 rounded bg-signal px-4 py-1 text-on-signal"
            >
              <BellRing size={20} className="shrink-0" aria-hidden="true" />
              <Link to={`/roast/${r.batchId}`} className="grow py-2">
                <strong className="underline underline-offset-4">
                  {t('watch.roast', { code: r.batchCode })}
                </strong>{' '}
                {r.texts[0]}
              </Link>
              <button
                type="button"
                className="min-h-11 px-2 font-semibold"
                onClick={() => setQuiet([...quiet.slice(-20), r.key])}
              >
                {t('watch.quiet')}
              </button>
            </div>
          ))}
        </div>
      )}
    </>
  );
}
