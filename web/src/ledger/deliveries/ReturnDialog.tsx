import { useState } from 'react';
import type { Delivery } from '@wunsch/contract';
import { newId } from '../../shell/entry.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Dialog } from '../../ui/Dialog.tsx';
import { SelectField, TextField } from '../../ui/Field.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { useWords } from '../../words/words.tsx';
import { AmountField, isNamed, type Amount } from '../stock/AmountField.tsx';

/** Nothing named yet. */
const NONE: Amount = { count: null, massMg: null };

/** Something of a delivery comes back: of which line, how much, and why. */
export function ReturnDialog({ delivery, onClose }: { delivery: Delivery; onClose: () => void }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const out = delivery.lines.filter((l) => l.massMg > 0);
  const [stepId, setStepId] = useState(out[0]?.stepId ?? '');
  const line = out.find((l) => l.stepId === stepId) ?? null;
  const [amount, setAmount] = useState<Amount>(NONE);
  const [place, setPlace] = useState('');
  const [reason, setReason] = useState('');
  const [onHold, setOnHold] = useState(true);
  const isReady = line !== null && isNamed(line, amount);
  const go = () =>
    send({
      path: `/api/returns/${newId()}`,
      body: {
        deliveryId: delivery.id,
        place,
        reason,
        onHold,
        lines: [
          {
            stepId,
            ...amount,
            parcelId: newId(),
            madeId: newId(),
            lossId: newId(),
          },
        ],
      },
      label: t('done.return', { from: delivery.customer }),
      undo: true,
    });
  const frame = {
    title: t('deliver.back'),
    description: t('deliver.back.of', { n: delivery.number, customer: delivery.customer }),
    onClose,
  };
  if (!line)
    return (
      <Dialog open {...frame}>
        <p>{t('deliver.back.all')}</p>
      </Dialog>
    );
  return (
    <FormDialog {...frame} submit={t('deliver.back.do')} isReady={isReady} onSubmit={go}>
      <SelectField
        label={t('what')}
        value={stepId}
        onChange={(e) => {
          setStepId(e.target.value);
          setAmount(NONE);
        }}
      >
        {out.map((l) => (
          <option key={l.stepId} value={l.stepId}>
            {`${l.recipeName ?? words.word('material', l.material)} ${l.barCode ?? l.batchCode ?? ''}`.trim()}
          </option>
        ))}
      </SelectField>
      <AmountField there={line} value={amount} onChange={setAmount} />
      <TextField
        label={t('lot.place')}
        value={place}
        onChange={(e) => setPlace(e.target.value)}
        maxLength={80}
      />
      <TextField
        label={t('stock.why')}
        value={reason}
        onChange={(e) => setReason(e.target.value)}
        maxLength={400}
      />
      <label className="flex min-h-11 items-center gap-2 text-[14px]">
        <input
          type="checkbox"
          className="size-5 accent-(--violet-text)"
          checked={onHold}
          onChange={(e) => setOnHold(e.target.checked)}
        />
        {t('deliver.back.hold')}
      </label>
    </FormDialog>
  );
}
