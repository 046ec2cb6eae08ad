import { useState } from 'react';
import type { Lot, StockItem } from '@wunsch/contract';
import { readDraining, USUAL_JUICE, type Draining } from '@wunsch/core/ferment';
import { useRead } from '../../shell/door.tsx';
import { newId } from '../../shell/entry.ts';
import { SelectField, TextField } from '../../ui/Field.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { HandsField } from '../../ui/HandsField.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { useLotWork } from './useLot.ts';

/** What the scales say of the juice; null until they can say something. */
function reading(from: Draining, fromMg: number, juiceMg: number | null) {
  return juiceMg !== null && juiceMg > 0 && juiceMg < fromMg ? readDraining({ from, fromMg, juiceMg }) : null;
}

/** Keeping the juice that drains from fresh beans: weighed, it is in stock and carries its share; the rest goes on fermenting. */
export function JuiceDialog({
  lot,
  keptMg,
  onClose,
}: {
  lot: Lot;
  /** Juice of it that was kept before, mg. */
  keptMg: number;
  onClose: () => void;
}) {
  const words = useWords();
  const { t } = words;
  const work = useLotWork(lot);
  const { data } = useRead<StockItem[]>('/api/stock-items');
  const lying = (data ?? []).filter(
    (p) => p.lotId === lot.id && p.batchId === null && p.material === lot.material,
  );
  const [chosen, setChosen] = useState<string | null>(null);
  const from = lying.find((p) => p.id === chosen) ?? lying[0];
  const [juiceMg, setJuice] = useState<number | null>(null);
  const [place, setPlace] = useState('');
  const [handsS, setHands] = useState<number | null>(null);
  const kind: Draining = lot.material === 'pods' ? 'pods' : 'wet beans';
  const fromMg = from?.remainingMg ?? 0;
  const said = reading(kind, fromMg, juiceMg);
  const [low, high] = USUAL_JUICE[kind];
  // What has drained already is part of what usually does.
  const before = lying.length === 1 ? keptMg : 0;
  const more = (share: number) => Math.max(0, Math.round(share * (fromMg + before) - before));
  const go = () =>
    work.send({
      path: `/api/drainings/${newId()}`,
      body: {
        parcelId: from!.id,
        takenId: newId(),
        juice: { movementId: newId(), parcelId: newId(), massMg: juiceMg! },
        rest: { movementId: newId(), parcelId: newId() },
        place,
        handsOnMinutes: handsS === null ? null : handsS / 60,
      },
      label: t('done.juice', { code: lot.code, mass: words.mass(juiceMg!) }),
      undo: true,
    });
  return (
    <FormDialog
      title={t('juice.title', { code: lot.code })}
      description={t('juice.text')}
      submit={t('juice.do')}
      isReady={said !== null}
      onSubmit={go}
      onClose={onClose}
    >
      {lying.length > 1 && (
        <SelectField label={t('juice.from')} value={from!.id} onChange={(e) => setChosen(e.target.value)}>
          {lying.map((p) => (
            <option key={p.id} value={p.id}>
              {[words.mass(p.remainingMg), p.place || t('stock.no-place')].join(' · ')}
            </option>
          ))}
        </SelectField>
      )}
      <QuantityField
        label={t('material.juice')}
        dimension="mass"
        unit={words.heavyUnit}
        value={juiceMg}
        onChange={setJuice}
        min={1000}
        max={Math.max(1000, fromMg - 1000)}
        autoFocus
        hint={
          more(high) > 0
            ? t(before > 0 ? 'juice.usual.more' : 'juice.usual', {
                low: words.mass(more(low)),
                high: words.mass(more(high)),
              })
            : undefined
        }
      />
      <TextField
        label={t('juice.place')}
        value={place}
        onChange={(e) => setPlace(e.target.value)}
        maxLength={80}
      />
      <HandsField value={handsS} onChange={setHands} />
      <p role="status" className="min-h-6 text-[14px]">
        {said &&
          [
            t('juice.reads', { percent: words.percent(said.share), rest: words.mass(said.restMg) }),
            said.verdict === 'more-than-pulp' && t('juice.more-than-pulp'),
          ]
            .filter(Boolean)
            .join(' ')}
      </p>
    </FormDialog>
  );
}
