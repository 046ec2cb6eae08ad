import { useId, useState } from 'react';
import type { StockItem } from '@wunsch/contract';
import { newId } from '../../shell/entry.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { TextField } from '../../ui/Field.tsx';
import { useWords } from '../../words/words.tsx';
import { allOf, AmountField, isNamed, type Amount } from './AmountField.tsx';
import { calledOf, originOf } from './names.ts';

/** Moving things on hand to another place; of a single one a part may go. */
export function MoveDialog({
  items,
  places,
  onClose,
  onDone,
}: {
  items: readonly StockItem[];
  places: readonly string[];
  onClose: () => void;
  onDone: () => void;
}) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const known = useId();
  const [place, setPlace] = useState('');
  const single = items.length === 1 ? items[0]! : null;
  const mayPart = single !== null && !['ingredient', 'packaging'].includes(single.material);
  const there = { count: single?.count ?? null, massMg: single?.remainingMg ?? 0 };
  const [amount, setAmount] = useState<Amount>(allOf(there));
  const whole = allOf(there);
  const isPart = mayPart && (amount.count !== whole.count || amount.massMg !== whole.massMg);
  const isReady = place.trim() !== '' && (!mayPart || isNamed(there, amount));
  const go = () =>
    send({
      path: `/api/moves/${newId()}`,
      body: {
        place,
        parcels: items.map((i) => ({
          parcelId: i.id,
          ...(isPart && {
            ...amount,
            part: { parcelId: newId(), stepId: newId(), takenId: newId(), madeId: newId() },
          }),
        })),
      },
      label: t('done.move', { n: items.length, place: place.trim() }),
      batchId: single?.batchId ?? null,
      undo: true,
    }).then(onDone);
  return (
    <FormDialog
      title={t('stock.move.title')}
      description={
        single
          ? `${originOf(single)} ${calledOf(single, words) || words.word('material', single.material)}`.trim()
          : t('stock.chosen', { n: items.length })
      }
      submit={t('stock.move')}
      isReady={isReady}
      onSubmit={go}
      onClose={onClose}
    >
      <TextField
        label={t('stock.to')}
        value={place}
        onChange={(e) => setPlace(e.target.value)}
        maxLength={80}
        list={known}
        required
      />
      <datalist id={known}>
        {places.filter(Boolean).map((p) => (
          <option key={p} value={p} />
        ))}
      </datalist>
      {mayPart && (
        <AmountField there={there} value={amount} onChange={setAmount} hint={t('stock.part.hint')} />
      )}
    </FormDialog>
  );
}
