import { BellRing } from 'lucide-react';
import { useEffect, useState, type ReactNode } from 'react';
import type { BenchView } from '@wunsch/contract';
import { Button } from '../ui/Button.tsx';
import { TextField } from '../ui/Field.tsx';
import { FormDialog } from '../ui/FormDialog.tsx';
import { QuantityField } from '../ui/QuantityField.tsx';
import { useWords } from '../words/words.tsx';
import { ring } from './bell.ts';
import { dueLabel } from './dueLabel.ts';
import { newId } from './entry.ts';
import { useInHand } from './inhand.ts';
import { useNow } from './now.ts';
import { useEntryHere } from './useEntryHere.ts';

type Due = BenchView['due'][number];

/** Sets a timer that rings on every open screen and survives a reload. */
export function TimerDialog({ onClose }: { onClose: () => void }) {
  const { t } = useWords();
  const send = useEntryHere();
  const batchId = useInHand();
  const [seconds, setSeconds] = useState<number | null>(600);
  const [label, setLabel] = useState('');
  const set = () =>
    send({
      path: `/api/observations/${newId()}`,
      body: {
        batchId,
        data: {
          kind: 'timer',
          label: label.trim() || t('timer'),
          dueAt: new Date(Date.now() + seconds! * 1000).toISOString(),
        },
      },
      label: t('done.timer'),
      batchId,
      undo: true,
    });
  return (
    <FormDialog
      title={t('timer.set')}
      submit={t('timer.start')}
      isReady={seconds !== null}
      onSubmit={set}
      onClose={onClose}
    >
      <QuantityField
        label={t('timer.in')}
        dimension="duration"
        value={seconds}
        onChange={setSeconds}
        min={1}
        max={30 * 86_400}
        hint={t('timer.hint')}
        autoFocus
      />
      <TextField
        label={t('timer.what')}
        value={label}
        onChange={(e) => setLabel(e.target.value)}
        maxLength={120}
      />
    </FormDialog>
  );
}

/** More bells than this stand in one line, so that a workshop left overnight still shows its pages. */
const APART = 2;

/** Timers that are due: a bell on every screen until someone answers it. */
export function TimerRing({ bench }: { bench: BenchView | undefined }) {
  const words = useWords();
  const send = useEntryHere();
  const now = useNow(1000);
  const due = (bench?.due ?? []).filter(
    (d) => d.kind === 'timer' && d.at !== null && Date.parse(d.at) <= now,
  );
  const key = due.map((d) => d.id).join();
  useEffect(() => {
    if (key === '') return;
    ring();
    const again = setInterval(ring, 8000);
    return () => clearInterval(again);
  }, [key]);
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
  const said = (d: Due) => `${d.batchCode ?? ''} ${d.at ? words.time(d.at) : ''}`.trim();
  if (due.length > APART && !isApart)
    return (
      <Bell role="alert">
        <span className="min-w-0 grow truncate">
          <strong>{words.t('timer.many', { n: due.length })}</strong>{' '}
          {due.map((d) => `${dueLabel(d, words)} ${said(d)}`).join('; ')}
        </span>
        <Button onClick={() => setApart(true)}>{words.t('timer.apart')}</Button>
        <Button look="main" onClick={() => due.forEach((d) => void seen(d))}>
          {words.t('timer.all-ok')}
        </Button>
      </Bell>
    );
  return (
    <div role="alert" className="divide-y divide-on-signal/40">
      {due.map((d) => (
        <Bell key={d.id}>
          <span className="grow">
            <strong>{dueLabel(d, words)}</strong> {said(d)}
          </span>
          <Button look="main" onClick={() => void seen(d)}>
            {words.t('timer.ok')}
          </Button>
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
