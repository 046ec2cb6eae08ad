import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { Lot, LotView, PickingRecord } from '@wunsch/contract';
import { USUAL_DRY_YIELD } from '@wunsch/core/ferment';
import { useRead } from '../../shell/door.tsx';
import { newId } from '../../shell/entry.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { Choice, TextField } from '../../ui/Field.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { ForCharge } from './ForCharge.tsx';
import { expectedYields, NOTHING_KNOWN, TO_NIBS } from './expected.ts';

/** Pickings become one lot of pods or of wet beans, with what was paid for them. */
export function TakeInDialog({
  pickings,
  onClose,
  onDone,
}: {
  pickings: readonly PickingRecord[];
  onClose: () => void;
  onDone: () => void;
}) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const navigate = useNavigate();
  // What this workshop keeps of its beans, as the lot's page will tell it: any lot knows of all.
  const { data: lots } = useRead<Lot[]>('/api/lots');
  const { data: known } = useRead<LotView>(lots?.[0] ? `/api/lots/${lots[0].id}` : null);
  const plots = [...new Set(pickings.map((p) => p.plot))];
  const latest = pickings.reduce((day, p) => (p.on > day ? p.on : day), pickings[0]!.on);
  const weighed = pickings.every((p) => p.wetMg !== null);
  const wetMg = weighed ? pickings.reduce((sum, p) => sum + p.wetMg!, 0) : null;
  const paid = pickings.reduce((sum, p) => sum + p.paid, 0);
  const [material, setMaterial] = useState<'pods' | 'wet beans'>(weighed ? 'wet beans' : 'pods');
  const [massMg, setMass] = useState<number | null>(wetMg);
  const [name, setName] = useState(plots.join(', ').slice(0, 120));
  const [code, setCode] = useState(`${plots[0]!.trim().slice(0, 2).toUpperCase()}${latest.slice(5, 7)}`);
  const isReady = massMg !== null && name.trim() !== '' && code.trim() !== '';
  const [low, high] = USUAL_DRY_YIELD[material];
  const takeIn = async () => {
    const id = newId();
    await send({
      path: `/api/lots/${id}/harvest`,
      body: {
        code,
        name,
        material,
        massMg,
        harvest: latest.slice(0, 4),
        grower: [...new Set(pickings.map((p) => p.from).filter(Boolean))].join(', ').slice(0, 120),
        pricePerKg: (paid * 1e6) / massMg!,
        receivedOn: latest,
        stepId: newId(),
        movementId: newId(),
        parcelId: newId(),
        pickings: pickings.map((p) => p.id),
      },
      label: t('done.lot', { name, mass: words.mass(massMg!) }),
      undo: true,
    });
    onDone();
    navigate(`/beans/${id}`);
  };
  return (
    <FormDialog
      title={t('harvest.take-in', { n: pickings.length })}
      description={t(paid > 0 ? 'harvest.take-in.text' : 'harvest.take-in.own', {
        pods: words.number(pickings.reduce((sum, p) => sum + p.pods, 0)),
        money: words.money(paid),
      })}
      submit={t('harvest.take-in.do')}
      isReady={isReady}
      onSubmit={takeIn}
      onClose={onClose}
    >
      <Choice
        label={t('lot.material')}
        value={material}
        onChange={setMaterial}
        options={(['pods', 'wet beans'] as const).map((m) => ({
          value: m,
          label: words.word('material', m),
        }))}
      />
      <QuantityField
        label={t('lot.mass')}
        dimension="mass"
        unit={words.heavyUnit}
        value={massMg}
        onChange={setMass}
        min={1000}
        max={1e11}
      />
      {massMg !== null && (
        <p className="text-[12.5px] text-ink-3">
          {t('harvest.dry', {
            low: words.mass(Math.round(massMg * low)),
            high: words.mass(Math.round(massMg * high)),
          })}
        </p>
      )}
      {massMg !== null && (
        <ForCharge
          from={material}
          massMg={massMg}
          pods={pickings.reduce((sum, p) => sum + p.pods, 0)}
          toNibs={expectedYields(known ?? NOTHING_KNOWN, TO_NIBS, 'new')}
        />
      )}
      <TextField
        label={t('lot.name')}
        value={name}
        onChange={(e) => setName(e.target.value)}
        maxLength={120}
        required
      />
      <TextField
        label={t('lot.code')}
        value={code}
        onChange={(e) => setCode(e.target.value)}
        maxLength={24}
        required
      />
    </FormDialog>
  );
}
