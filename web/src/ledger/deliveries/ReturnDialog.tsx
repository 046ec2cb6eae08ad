import { useState } from 'react';
import type { Delivery } from '@wunsch/contract';
import { newId } from '../../shell/entry.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { SelectField, TextField } from '../../ui/Field.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';

/** Something of a delivery comes back: of which line, how much, and why. */
export function ReturnDialog({ delivery, onClose }: { delivery: Delivery; onClose: () => void }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const out = delivery.lines.filter((l) => l.massMg > 0);
  const [stepId, setStepId] = useState(out[0]?.stepId ?? '');
  const line = out.find((l) => l.stepId === stepId) ?? null;
  const [count, setCount] = useState<number | null>(null);
  const [massMg, setMass] = useState<number | null>(null);
  const [place, setPlace] = useState('');
  const [reason, setReason] = useState('');
  const [onHold, setOnHold] = useState(true);
  const [error, setError] = useState<string | null>(null);
  const amount = line?.count === null ? massMg : count;
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
            ...(line?.count === null ? { massMg } : { count }),
            parcelId: newId(),
            madeId: newId(),
            lossId: newId(),
          },
        ],
      },
      label: t('done.return', { from: delivery.customer }),
      undo: true,
    }).then(onClose, (failure: unknown) => setError(words.explain(failure)));
  return (
    <Dialog
      open
      onClose={onClose}
      title={t('deliver.back')}
      description={t('deliver.back.of', { n: delivery.number, customer: delivery.customer })}
    >
      {!line ? (
        <p>{t('deliver.back.all')}</p>
      ) : (
        <form
          className="grid gap-3"
          onSubmit={(e) => {
            e.preventDefault();
            if (amount !== null) void go();
          }}
        >
          <SelectField
            label={t('what')}
            value={stepId}
            onChange={(e) => {
              setStepId(e.target.value);
              setCount(null);
              setMass(null);
            }}
          >
            {out.map((l) => (
              <option key={l.stepId} value={l.stepId}>
                {`${l.recipeName ?? words.word('material', l.material)} ${l.barCode ?? l.batchCode ?? ''}`.trim()}
              </option>
            ))}
          </SelectField>
          {line.count === null ? (
            <QuantityField
              label={t('weight')}
              dimension="mass"
              value={massMg}
              onChange={setMass}
              min={1}
              max={line.massMg}
              error={error}
            />
          ) : (
            <QuantityField
              label={t('pieces')}
              dimension="count"
              value={count}
              onChange={setCount}
              min={1}
              max={line.count}
              error={error}
            />
          )}
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
          <Button type="submit" look="main" big disabled={amount === null}>
            {t('deliver.back.do')}
          </Button>
        </form>
      )}
    </Dialog>
  );
}
