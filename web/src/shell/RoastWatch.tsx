import { BellRing } from 'lucide-react';
import { lazy, Suspense, useEffect, useState } from 'react';
import { Link, useLocation } from 'react-router';
import type { BenchView, RoastRecord, RunningItem } from '@wunsch/contract';
import { stepInSight, toStep } from './chosenStep.ts';
import { useRead } from './door.tsx';
import { useWords } from '../words/words.tsx';
import { ring } from './bell.ts';
import type { WatchState } from '../stations/roast/watchState.ts';

const Watcher = lazy(() => import('../stations/roast/Watcher.tsx'));

/** A bell nobody comes for falls silent after five minutes; its line stays. */
const MOST_RINGS = 10;

const pageOf = ({ batchId }: Pick<RunningItem, 'batchId'>) => `/roast/${batchId}`;

/** Keeps an eye on every roast that runs, whatever screen is open: a bell and a line of words when one needs a hand. */
export function RoastWatch({ bench }: { bench: BenchView | undefined }) {
  const roasting = (bench?.running ?? []).filter((r) => r.station === 'roast');
  const ids = roasting.map((r) => r.stepId).join(',');
  const { data } = useRead<RoastRecord[]>(ids ? `/api/roasts?ids=${ids}&width=10` : null);
  const [states, setStates] = useState<Record<string, WatchState>>({});
  const [quiet, setQuiet] = useState<readonly string[]>([]);
  const { t } = useWords();
  // Of a batch in several ovens, the one its page is about.
  const shown = stepInSight(
    roasting.map((r) => ({ ...r, id: r.stepId })),
    useLocation(),
  )?.stepId;
  const loud = roasting.flatMap((r) => {
    const state = states[r.stepId];
    if (!state || state.texts.length === 0) return [];
    const codes = state.codes.split(' ').filter((code) => !quiet.includes(`${r.stepId} ${code}`));
    if (codes.length === 0) return [];
    const texts = state.texts.filter((_, i) => codes.includes(state.codes.split(' ')[i]!));
    return [{ ...r, key: `${r.stepId} ${codes.join(' ')}`, codes, texts }];
  });
  const elsewhere = loud.filter((r) => r.stepId !== shown);
  const key = loud.map((r) => r.key).join();
  useEffect(() => {
    if (key === '') return;
    ring();
    let rung = 1;
    const again = setInterval(() => {
      ring();
      rung += 1;
      if (rung >= MOST_RINGS) clearInterval(again);
    }, 30_000);
    return () => clearInterval(again);
  }, [key]);
  const on = Object.entries(states)
    .flatMap(([stepId, { codes }]) => codes.split(' ').map((code) => `${stepId} ${code}`))
    .join('\n');
  // What was hushed may ring again once it has passed and comes back.
  useEffect(() => setQuiet((all) => all.filter((key) => on.split('\n').includes(key))), [on]);
  // Who opens the roast's own page has seen what it asks for: it does not follow to the next page.
  const here = loud.find((r) => r.stepId === shown);
  const seen = here ? here.codes.map((code) => `${here.stepId} ${code}`).join('\n') : '';
  useEffect(() => {
    if (seen === '') return;
    return () => setQuiet((all) => [...new Set([...all, ...seen.split('\n')])]);
  }, [shown, seen]);
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
        <div role="alert" className="divide-y divide-on-signal/40">
          {elsewhere.map((r) => (
            <div key={r.stepId} className="flex min-h-12 items-center gap-3 bg-signal px-4 text-on-signal">
              <BellRing size={20} className="shrink-0" aria-hidden="true" />
              <Link to={toStep(pageOf(r), r.stepId)} className="grow py-2">
                {/* Several at once leave a phone its page: the first words say enough to go there. */}
                <span className={elsewhere.length > 1 ? 'max-sm:line-clamp-1' : ''}>
                  <strong className="underline underline-offset-4">
                    {t('watch.roast', { code: r.batchCode })}
                  </strong>{' '}
                  {r.texts[0]}
                </span>
              </Link>
              <button
                type="button"
                className="min-h-11 px-2 font-semibold"
                onClick={() => setQuiet([...quiet, ...r.codes.map((code) => `${r.stepId} ${code}`)])}
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
