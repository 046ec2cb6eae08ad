import { endOfDay } from 'date-fns';
import { useState } from 'react';
import type { PlanRoomView } from '@wunsch/contract';
import { newId } from '../shell/entry.ts';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { FormDialog } from '../ui/FormDialog.tsx';
import { SelectField, TextField } from '../ui/Field.tsx';
import { localTime } from '../ui/localTime.ts';
import { useWords } from '../words/words.tsx';

/** Somebody is away, a machine stands still, or the workshop is closed. */
export function AbsenceDialog({ room, onClose }: { room: PlanRoomView; onClose: () => void }) {
  const { t } = useWords();
  const send = useEntryHere();
  const [id] = useState(newId);
  const [who, setWho] = useState(room.people[0]?.id ?? '');
  // Most often somebody rings in ill, or a machine has just stopped: from now to the end of the day.
  const [from, setFrom] = useState(() => localTime(new Date()));
  const [to, setTo] = useState(() => localTime(endOfDay(new Date())));
  const [reason, setReason] = useState('');
  const isReady = from !== '' && to !== '' && to > from;
  return (
    <FormDialog
      title={t('plan.absence.new')}
      submit={t('plan.absence.keep')}
      isReady={isReady}
      onSubmit={() =>
        send({
          path: `/api/absences/${id}`,
          body: {
            who: who || null,
            from: new Date(from).toISOString(),
            to: new Date(to).toISOString(),
            reason,
          },
          label: t('done.plan.absence'),
          undo: true,
        })
      }
      onClose={onClose}
    >
      <SelectField label={t('plan.absence.who')} value={who} onChange={(e) => setWho(e.target.value)}>
        {room.people.map((p) => (
          <option key={p.id} value={p.id}>
            {p.name}
          </option>
        ))}
        {room.machines.map((m) => (
          <option key={m.id} value={m.id}>
            {m.name}
          </option>
        ))}
        <option value="">{t('plan.everyone')}</option>
      </SelectField>
      <div className="grid gap-3 sm:grid-cols-2">
        <TextField
          label={t('plan.absence.from')}
          type="datetime-local"
          value={from}
          onChange={(e) => setFrom(e.target.value)}
        />
        <TextField
          label={t('plan.absence.to')}
          type="datetime-local"
          value={to}
          onChange={(e) => setTo(e.target.value)}
          error={from && to && to <= from ? t('plan.absence.wrong') : null}
        />
      </div>
      <TextField
        label={t('plan.absence.reason')}
        value={reason}
        onChange={(e) => setReason(e.target.value)}
        maxLength={120}
      />
    </FormDialog>
  );
}
