import { useId, useState } from 'react';
import type { StockItem } from '@wunsch/contract';
import { newId } from '../../shell/entry.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { TextField } from '../../ui/Field.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
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
  const [count, setCount] = useState<number | null>(single?.count ?? null);
  const [massMg, setMass] = useState<number | null>(single?.remainingMg ?? null);
  const [error, setError] = useState<string | null>(null);
  const isPart = mayPart && (single.count !== null ? count !== single.count : massMg !== single.remainingMg);
  const isReady = place.trim() !== '' && (!mayPart || (single.count !== null ? count : massMg) !== null);
  const go = () =>
    send({
      path: `/api/moves/${newId()}`,
      body: {
        place,
        parcels: items.map((i) => ({
          parcelId: i.id,
          ...(isPart && {
            ...(i.count !== null ? { count } : { massMg }),
            part: { parcelId: newId(), stepId: newId(), takenId: newId(), madeId: newId() },
          }),
        })),
      },
      label: t('done.move', { n: items.length, place: place.trim() }),
      batchId: single?.batchId ?? null,
      undo: true,
    }).then(
      () => {
        onDone();
        onClose();
      },
      (failure: unknown) => setError(words.explain(failure)),
    );
  return (
    <Dialog
      open
      onClose={onClose}
      title={t('stock.move.title')}
      description={
        single
          ? `${originOf(single)} ${calledOf(single, words) || words.word('material', single.material)}`.trim()
          : t('stock.chosen', { n: items.length })
      }
    >
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (isReady) void go();
        }}
      >
        <TextField
          label={t('stock.to')}
          value={place}
          onChange={(e) => setPlace(e.target.value)}
          maxLength={80}
          list={known}
          error={error}
          required
        />
        <datalist id={known}>
          {places.filter(Boolean).map((p) => (
            <option key={p} value={p} />
          ))}
        </datalist>
        {mayPart &&
          (single.count !== null ? (
            <QuantityField
              label={t('pieces')}
              dimension="count"
              value={count}
              onChange={setCount}
              min={1}
              max={single.count}
              hint={t('stock.part.hint')}
            />
          ) : (
            <QuantityField
              label={t('weight')}
              dimension="mass"
              value={massMg}
              onChange={setMass}
              min={1}
              max={single.remainingMg}
              hint={t('stock.part.hint')}
            />
          ))}
        <Button type="submit" look="main" big disabled={!isReady}>
          {t('stock.move')}
        </Button>
      </form>
    </Dialog>
  );
}
