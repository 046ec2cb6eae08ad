import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { LotView } from '@wunsch/contract';
import { newId } from '../../shell/entry.ts';
import { TextField } from '../../ui/Field.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { today } from '../today.ts';
import { useLotWork } from './useLot.ts';

/** Taking the dried beans in: a new lot takes the wet one's place. */
export function DriedDialog({
  view,
  moisture,
  onClose,
}: {
  view: LotView;
  moisture: number | null;
  onClose: () => void;
}) {
  const words = useWords();
  const { t } = words;
  const work = useLotWork(view.lot);
  const navigate = useNavigate();
  const [massMg, setMass] = useState<number | null>(null);
  const [code, setCode] = useState(`${view.lot.code}D`);
  const [place, setPlace] = useState(view.lot.place);
  const [percent, setPercent] = useState<number | null>(
    moisture === null ? null : Math.round(moisture * 10) / 10,
  );
  const finish = async () => {
    const id = newId();
    await work.send({
      path: `/api/lots/${id}/dried`,
      body: {
        fromLotId: view.lot.id,
        code,
        name: view.lot.name,
        massMg,
        moisture: percent,
        receivedOn: today(),
        place,
        stepId: newId(),
        takenId: newId(),
        movementId: newId(),
        lossId: newId(),
        parcelId: newId(),
      },
      label: t('done.dried', { code }),
      undo: true,
    });
    void navigate(`/beans/${id}`);
  };
  return (
    <FormDialog
      title={t('dry.finish')}
      description={t('dry.finish.text')}
      submit={t('dry.finish.do')}
      isReady={massMg !== null && code.trim() !== ''}
      onSubmit={finish}
      onClose={onClose}
    >
      <QuantityField
        label={t('dry.finish.mass')}
        dimension="mass"
        unit={words.heavyUnit}
        value={massMg}
        onChange={setMass}
        min={1000}
        max={view.lot.remainingMg}
        autoFocus
      />
      <QuantityField
        label={t('lot.moisture')}
        dimension="percent"
        value={percent}
        onChange={setPercent}
        min={0}
        max={60}
        optional
      />
      <TextField
        label={t('lot.code')}
        value={code}
        onChange={(e) => setCode(e.target.value)}
        maxLength={24}
        required
      />
      <TextField
        label={t('lot.place')}
        value={place}
        onChange={(e) => setPlace(e.target.value)}
        maxLength={80}
      />
    </FormDialog>
  );
}
