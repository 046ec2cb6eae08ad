import { useState } from 'react';
import type { StockItem } from '@wunsch/contract';
import { newId } from '../../shell/entry.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
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
  const { t, explain } = useWords();
  const send = useEntryHere();
  const [reason, setReason] = useState('');
  const [error, setError] = useState<string | null>(null);
  const go = () =>
    send({
      path: `/api/parcel-holds/${newId()}`,
      body: { parcelIds: items.map((i) => i.id), onHold, reason },
      label: t(onHold ? 'done.hold-parcels' : 'done.let-go', { n: items.length }),
      undo: true,
    }).then(
      () => {
        onDone();
        onClose();
      },
      (failure: unknown) => setError(explain(failure)),
    );
  return (
    <Dialog
      open
      onClose={onClose}
      title={t(onHold ? 'stock.set-aside' : 'stock.let-go')}
      description={t(onHold ? 'stock.set-aside.text' : 'stock.let-go.text', { n: items.length })}
    >
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (reason.trim()) void go();
        }}
      >
        <TextField
          label={t('stock.why')}
          value={reason}
          onChange={(e) => setReason(e.target.value)}
          maxLength={200}
          error={error}
          required
        />
        <Button type="submit" look="main" big disabled={!reason.trim()}>
          {t(onHold ? 'stock.set-aside' : 'stock.let-go')}
        </Button>
      </form>
    </Dialog>
  );
}
