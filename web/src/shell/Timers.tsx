import { BellRing } from 'lucide-react';
import { useEffect, useState } from 'react';
import type { BenchView } from '@wunsch/contract';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { TextField } from '../ui/Field.tsx';
import { QuantityField } from '../ui/QuantityField.tsx';
import { useWords } from '../words/words.tsx';
import { ring } from './bell.ts';
import { dueLabel } from './dueLabel.ts';
import { newId } from './entry.ts';
import { useInHand } from './inhand.ts';
import { useNow } from './now.ts';
import { useEntryHere } from './useEntryHere.ts';

/** Sets a timer that rings on every open screen and survives a reload. */
export function TimerDialog({ onClose }: { onClose: () => void }) {
  const { t } = useWords();
  const send = useEntryHere();
  const batchId = useInHand();
  const [seconds, setSeconds] = useState<number | null>(600);
  const [label, setLabel] = useState('');
  return (
    <Dialog open onClose={onClose} title={t('timer.set')}>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (seconds === null) return;
          const dueAt = new Date(Date.now() + seconds * 1000).toISOString();
          void send({
            path: `/api/observations/${newId()}`,
            body: { batchId, data: { kind: 'timer', label: label.trim() || t('timer'), dueAt } },
            label: t('done.timer'),
            batchId,
            undo: true,
          }).then(onClose, () => undefined);
        }}
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
        <Button type="submit" look="main" big disabled={seconds === null}>
          {t('timer.start')}
        </Button>
      </form>
    </Dialog>
  );
}

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
  if (due.length === 0) return null;
  return (
    <div role="alert" className="divide-y divide-on-signal/40">
      {due.map((d) => (
        <div key={d.id} className="flex items-center gap-3 bg-signal px-4 py-1 text-on-signal">
          <BellRing size={20} className="shrink-0" aria-hidden="true" />
          <span className="grow">
            <strong>{dueLabel(d, words)}</strong> {d.batchCode} {d.at && words.time(d.at)}
          </span>
          <Button
            look="main"
            onClick={() =>
              void send({
                path: `/api/observations/${newId()}`,
                body: { batchId: d.batchId, data: { kind: 'timerDone', timerId: d.id } },
                label: words.t('entry.timer-done'),
                batchId: d.batchId,
                quiet: true,
              }).catch(() => undefined)
            }
          >
            {words.t('timer.ok')}
          </Button>
        </div>
      ))}
    </div>
  );
}
