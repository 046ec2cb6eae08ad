import { useState } from 'react';
import type { StockItem } from '@wunsch/contract';
import { newId } from '../../shell/entry.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { TextField } from '../../ui/Field.tsx';
import { useWords } from '../../words/words.tsx';

/** Setting things aside, or letting them go, with the reason. */
export function HoldDialog({
  items,
  onHold,
  onClose,
  onDone,
}: {
  items: readonly StockItem[];
  onHold: boolean;
  onClose: () => void;
  onDone: () => void;
}) {
  const { t } = useWords();
  const send = useEntryHere();
  const [reason, setReason] = useState('');
  const go = () =>
    send({
      path: `/api/parcel-holds/${newId()}`,
      body: { parcelIds: items.map((i) => i.id), onHold, reason },
      label: t(onHold ? 'done.hold-parcels' : 'done.let-go', { n: items.length }),
      undo: true,
    }).then(onDone);
  return (
    <FormDialog
      title={t(onHold ? 'stock.set-aside' : 'stock.let-go')}
      description={t(onHold ? 'stock.set-aside.text' : 'stock.let-go.text', { n: items.length })}
      submit={t(onHold ? 'stock.set-aside' : 'stock.let-go')}
      isReady={reason.trim() !== ''}
      onSubmit={go}
      onClose={onClose}
    >
      <TextField
        label={t('stock.why')}
        value={reason}
        onChange={(e) => setReason(e.target.value)}
        maxLength={200}
        required
      />
    </FormDialog>
  );
}
