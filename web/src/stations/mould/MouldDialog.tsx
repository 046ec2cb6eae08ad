import { useRef, useState } from 'react';
import type { MouldRecord } from '@wunsch/contract';
import { newId } from '../../shell/entry.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { SelectField, TextField } from '../../ui/Field.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';

/** What a mould can make. */
export const MAKES = ['bars', 'minis', 'blocks', 'pieces', 'tablets'] as const;

/** A kind of mould the workshop has: what it makes, how many cavities, how many there are, and the places it takes. */
export function MouldDialog({
  mould,
  onClose,
  onSaved,
}: {
  mould: MouldRecord | null;
  onClose: () => void;
  onSaved?: (id: string) => void;
}) {
  const { t } = useWords();
  const send = useEntryHere();
  const [name, setName] = useState(mould?.name ?? '');
  const [makes, setMakes] = useState<MouldRecord['makes']>(mould?.makes ?? 'bars');
  const [cavities, setCavities] = useState<number | null>(mould?.cavities ?? null);
  const [fillMg, setFill] = useState<number | null>(mould?.fillMg ?? null);
  const [count, setCount] = useState<number | null>(mould?.count ?? null);
  const [places, setPlaces] = useState<number | null>(mould?.places ?? 1);
  const whole = name.trim() !== '' && cavities && fillMg && count && places;
  const id = useRef(mould?.id ?? newId()).current;
  const save = (active: boolean) =>
    send({
      path: `/api/moulds/${id}`,
      body: { name, makes, cavities, fillMg, count, places, active },
      label: t('mouldform.done', { name }),
      ...(mould && { ifMatch: mould.version }),
    }).then(() => {
      if (active) onSaved?.(id);
    });
  return (
    <FormDialog
      title={mould?.name ?? t('mouldform.add')}
      submit={t('settings.save')}
      isReady={Boolean(whole)}
      onSubmit={() => save(true)}
      also={({ busy, run }) =>
        mould && (
          <Button look="quiet" disabled={busy || !whole} onClick={() => run(() => save(false))}>
            {t('mouldform.retire')}
          </Button>
        )
      }
      onClose={onClose}
    >
      <TextField
        label={t('mouldform.name')}
        value={name}
        onChange={(e) => setName(e.target.value)}
        maxLength={120}
        required
        placeholder={t('mouldform.example')}
      />
      <SelectField
        label={t('mouldform.makes')}
        value={makes}
        onChange={(e) => setMakes(e.target.value as MouldRecord['makes'])}
      >
        {MAKES.map((m) => (
          <option key={m} value={m}>
            {t(`makes.${m}`)}
          </option>
        ))}
      </SelectField>
      <div className="grid grid-cols-2 items-end gap-3">
        <QuantityField
          label={t('mould.cavities')}
          dimension="count"
          value={cavities}
          onChange={setCavities}
          min={1}
          max={1000}
        />
        <QuantityField
          label={t('mouldform.fill')}
          dimension="mass"
          value={fillMg}
          onChange={setFill}
          min={100}
          max={20_000_000}
        />
        <QuantityField
          label={t('mouldform.count')}
          dimension="count"
          value={count}
          onChange={setCount}
          min={1}
          max={5000}
        />
        <QuantityField
          label={t('mouldform.places')}
          dimension="number"
          value={places}
          onChange={setPlaces}
          min={0.1}
          max={100}
        />
      </div>
    </FormDialog>
  );
}
