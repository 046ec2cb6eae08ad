import { useState } from 'react';
import type { Machine, StockItem } from '@wunsch/contract';
import { isPress } from '@wunsch/core/ledger';
import { pressYield, readPressing, USUAL_CAKE_FAT } from '@wunsch/core/grind';
import { DEFAULT_NIB_FAT } from '@wunsch/core/recipe';
import { useRead } from '../../shell/door.tsx';
import { newId } from '../../shell/entry.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { SelectField } from '../../ui/Field.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { HandsField } from '../../ui/HandsField.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { calledOf, originOf } from './names.ts';

/** What the weights come to: fat left in the cake, or why they cannot be. */
function reading(of: Parameters<typeof readPressing>[0]) {
  try {
    return { ok: true as const, ...readPressing(of) };
  } catch (error) {
    return { ok: false as const, why: (error as Error).message };
  }
}

/** Machines that press, by what they are called. */
function usePresses(): Machine[] {
  const { data } = useRead<Machine[]>('/api/machines');
  return (data ?? []).filter((m) => m.active && isPress(m));
}

/** Pressing liquor: what to expect of it, what came out by the scales, and what that says of the cake. */
export function PressDialog({
  item,
  onClose,
  onDone,
}: {
  item: StockItem;
  onClose: () => void;
  onDone: () => void;
}) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const [massMg, setMassMg] = useState<number | null>(item.remainingMg);
  const [fat, setFat] = useState<number | null>(DEFAULT_NIB_FAT);
  const [butterMg, setButterMg] = useState<number | null>(null);
  const [cakeMg, setCakeMg] = useState<number | null>(null);
  const presses = usePresses();
  const [press, setPress] = useState<string | null>(null);
  const machineId = press ?? presses[0]?.id ?? '';
  const [ranS, setRan] = useState<number | null>(null);
  const [handsS, setHands] = useState<number | null>(null);
  const expected =
    massMg !== null && fat !== null && fat > USUAL_CAKE_FAT
      ? pressYield({ liquorMg: massMg, liquorFat: fat, cakeFat: USUAL_CAKE_FAT })
      : null;
  const read =
    massMg !== null && fat !== null && butterMg !== null && cakeMg !== null
      ? reading({ liquorMg: massMg, liquorFat: fat, butterMg, cakeMg })
      : null;
  const go = () =>
    send({
      path: `/api/pressings/${newId()}`,
      body: {
        parcelId: item.id,
        massMg: massMg === item.remainingMg ? null : massMg,
        takenId: newId(),
        butter: { movementId: newId(), parcelId: newId(), massMg: butterMg! },
        cake: { movementId: newId(), parcelId: newId(), massMg: cakeMg! },
        lossId: newId(),
        liquorFat: fat,
        machineId: machineId || null,
        ranMinutes: ranS === null ? null : ranS / 60,
        handsOnMinutes: handsS === null ? null : handsS / 60,
      },
      label: t('done.press', { butter: words.mass(butterMg!), cake: words.mass(cakeMg!) }),
      batchId: item.batchId,
      undo: true,
    }).then(onDone);
  return (
    <FormDialog
      title={`${t('press')}: ${`${originOf(item)} ${calledOf(item, words)}`.trim()}`}
      description={t('press.text')}
      submit={t('press.do')}
      isReady={read?.ok ?? false}
      onSubmit={go}
      onClose={onClose}
    >
      <div className="grid gap-3 sm:grid-cols-2">
        <QuantityField
          label={t('press.in')}
          dimension="mass"
          value={massMg}
          onChange={setMassMg}
          min={1}
          max={item.remainingMg}
        />
        <QuantityField
          label={t('press.fat')}
          dimension="percent"
          value={fat}
          onChange={setFat}
          min={30}
          max={65}
        />
        <QuantityField
          label={t('press.butter')}
          dimension="mass"
          value={butterMg}
          onChange={setButterMg}
          min={1}
          autoFocus
          hint={
            expected
              ? t('press.expect', { mass: words.mass(expected.butterMg), percent: USUAL_CAKE_FAT })
              : undefined
          }
        />
        <QuantityField
          label={t('press.cake')}
          dimension="mass"
          value={cakeMg}
          onChange={setCakeMg}
          min={1}
          error={read && !read.ok ? t('press.cannot') : null}
        />
        {presses.length > 0 && (
          <SelectField label={t('press.on')} value={machineId} onChange={(e) => setPress(e.target.value)}>
            {presses.map((m) => (
              <option key={m.id} value={m.id}>
                {m.name}
              </option>
            ))}
            <option value="">{t('press.on.none')}</option>
          </SelectField>
        )}
        <QuantityField
          label={t('press.ran')}
          dimension="duration"
          value={ranS}
          onChange={setRan}
          min={1}
          max={100_000 * 60}
          optional
        />
        <HandsField value={handsS} onChange={setHands} hint={t('press.hands.hint')} />
      </div>
      <p role="status" className="min-h-6 text-[14px]">
        {read?.ok &&
          t('press.reads', {
            percent: words.number(read.cakeFat, 1),
            recovered: words.number(100 * read.recovered, 0),
            lost: words.mass(read.lostMg),
          })}
      </p>
    </FormDialog>
  );
}
