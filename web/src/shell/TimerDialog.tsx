import { useState } from 'react';
import { TextField } from '../ui/Field.tsx';
import { FormDialog } from '../ui/FormDialog.tsx';
import { QuantityField } from '../ui/QuantityField.tsx';
import { useWords } from '../words/words.tsx';
import { useDoor } from './door.tsx';
import { newId } from './entry.ts';
import { useInHand } from './inhand.ts';
import { useEntryHere } from './useEntryHere.ts';

/** Sets a timer that rings on every open screen and survives a reload. */
export function TimerDialog({ onClose }: { onClose: () => void }) {
  const { t } = useWords();
  const send = useEntryHere();
  const { now } = useDoor();
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
          dueAt: new Date(now() + seconds! * 1000).toISOString(),
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
