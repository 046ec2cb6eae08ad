import { BellRing } from 'lucide-react';
import { useEffect, useState, type ReactNode } from 'react';
import type { BenchView } from '@wunsch/contract';
import { Button } from '../ui/Button.tsx';
import { useWords } from '../words/words.tsx';
import { ring } from './bell.ts';
import { dueLabel } from './dueLabel.ts';
import { newId } from './entry.ts';
import { useNow } from './now.ts';
import { useMayMake } from './session.tsx';
import { useEntryHere } from './useEntryHere.ts';

type Due = BenchView['due'][number];

/** More bells than this stand in one line, so that a workshop left overnight still shows its pages. */
const APART = 2;

/** Timers that are due: a bell on every screen until someone answers it. */
export function TimerRing({ bench }: { bench: BenchView | undefined }) {
  const words = useWords();
  const send = useEntryHere();
  const now = useNow(1000);
  // Who cannot answer a bell reads it, and is not rung for.
  const mayMake = useMayMake();
  const due = (bench?.due ?? []).filter(
    (d) => d.kind === 'timer' && d.at !== null && Date.parse(d.at) <= now,
  );
  const key = due.map((d) => d.id).join();
  useEffect(() => {
    if (key === '' || !mayMake) return;
    ring();
    const again = setInterval(ring, 8000);
    return () => clearInterval(again);
  }, [key, mayMake]);
  const [isApart, setApart] = useState(false);
  if (due.length === 0) return null;
  const seen = (d: Due) =>
    send({
      path: `/api/observations/${newId()}`,
      body: { batchId: d.batchId, data: { kind: 'timerDone', timerId: d.id } },
      label: words.t('entry.timer-done'),
      batchId: d.batchId,
      quiet: true,
    }).catch(() => undefined);
  const said = (d: Due) => `${d.batchCode ?? ''} ${d.at ? words.when(d.at) : ''}`.trim();
  if (due.length > APART && !isApart)
    return (
      <Bell role="alert">
        <span className="line-clamp-2 min-w-0 grow max-sm:text-[13px]">
          <strong>{words.t('timer.many', { n: due.length })}</strong>{' '}
          {due.map((d) => `${dueLabel(d, words)} ${said(d)}`).join('; ')}
        </span>
        <Button className="shrink-0 whitespace-nowrap" onClick={() => setApart(true)}>
          {words.t('timer.apart')}
        </Button>
        {mayMake && (
          <Button
            look="main"
            className="shrink-0 whitespace-nowrap"
            onClick={() => due.forEach((d) => void seen(d))}
          >
            {words.t('timer.all-ok')}
          </Button>
        )}
      </Bell>
    );
  return (
    <div role="alert" className="divide-y divide-on-signal/40">
      {due.map((d) => (
        <Bell key={d.id}>
          <span className="grow">
            <strong>{dueLabel(d, words)}</strong> {said(d)}
          </span>
          {mayMake && (
            <Button look="main" onClick={() => void seen(d)}>
              {words.t('timer.ok')}
            </Button>
          )}
        </Bell>
      ))}
    </div>
  );
}

/** A line that rings. */
function Bell({ role, children }: { role?: 'alert'; children: ReactNode }) {
  return (
    <div role={role} className="flex items-center gap-3 bg-signal px-4 py-1 text-on-signal">
      <BellRing size={20} className="shrink-0" aria-hidden="true" />
      {children}
    </div>
  );
}
