import { useState } from 'react';
import { LEAVE_FOR, type ParcelRecord } from '@wunsch/contract';
import { newId } from '../../shell/entry.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { Choice, TextField } from '../../ui/Field.tsx';
import { MoneyField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { allOf, AmountField, isNamed, type Amount } from './AmountField.tsx';

/** Where husk usually goes. */
const OF_HUSK = ['tea', 'mulch', 'brewer', 'sold', 'waste'] as const;

/** Material leaves the workshop: how much, where to, and what it fetches. */
export function LeaveButton({
  parcel,
  onDeliver,
}: {
  parcel: ParcelRecord;
  /** Makes it a delivery to a customer by name instead; left out where it cannot be. */
  onDeliver?: () => void;
}) {
  const words = useWords();
  const { t } = words;
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)}>{t('leave')}</Button>
      {open && <LeaveDialog parcel={parcel} onDeliver={onDeliver} onClose={() => setOpen(false)} />}
    </>
  );
}

function LeaveDialog({
  parcel,
  onDeliver,
  onClose,
}: {
  parcel: ParcelRecord;
  onDeliver?: () => void;
  onClose: () => void;
}) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const known: readonly string[] = parcel.material === 'husk' ? OF_HUSK : LEAVE_FOR;
  const there = { count: parcel.count, massMg: parcel.remainingMg };
  const [amount, setAmount] = useState<Amount>(allOf(there));
  const isReady = isNamed(there, amount);
  const [destination, setDestination] = useState(known[0]!);
  const [other, setOther] = useState('');
  const [fetched, setFetched] = useState(0);
  const [error, setError] = useState<string | null>(null);
  const what = words.word('material', parcel.material);
  const go = () =>
    send({
      path: `/api/leaves/${newId()}`,
      body: {
        parcelId: parcel.id,
        // All of it is sent as no number, so that it stays all of it where an earlier weight is corrected.
        massMg: amount.massMg === there.massMg ? null : amount.massMg,
        count: amount.count === there.count ? null : amount.count,
        destination: other.trim() || destination,
        fetched,
        takenId: newId(),
        lossId: newId(),
      },
      label: t('done.leave', {
        what,
        mass:
          parcel.count === null ? words.mass(amount.massMg ?? 0) : t('pieces.n', { n: amount.count ?? 0 }),
        to: other.trim() || words.word('to', destination),
      }),
      batchId: parcel.batchId,
      undo: true,
    }).then(onClose, (failure: unknown) => setError(words.explain(failure)));
  return (
    <Dialog
      open
      onClose={onClose}
      title={t('leave.title', { what })}
      description={t('there', { mass: words.mass(parcel.remainingMg) })}
    >
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (isReady) void go();
        }}
      >
        <AmountField there={there} value={amount} onChange={setAmount} error={error} />
        <Choice
          label={t('leave.to')}
          value={destination}
          onChange={setDestination}
          options={known.map((k) => ({ value: k, label: words.word('to', k) }))}
        />
        <TextField
          label={t('leave.other')}
          value={other}
          onChange={(e) => setOther(e.target.value)}
          maxLength={80}
        />
        {onDeliver && destination === 'sold' && !other && (
          <div className="flex flex-wrap items-center gap-x-3 gap-y-1 text-[13px] text-ink-2">
            <span>{t('leave.to-customer')}</span>
            <Button
              onClick={() => {
                onClose();
                onDeliver();
              }}
            >
              {t('leave.deliver')}
            </Button>
          </div>
        )}
        <MoneyField label={t('leave.fetched')} value={fetched} onChange={setFetched} />
        <Button type="submit" look="main" big disabled={!isReady}>
          {t('leave.do')}
        </Button>
      </form>
    </Dialog>
  );
}
