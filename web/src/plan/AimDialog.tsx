import { useState } from 'react';
import type { PlanRoomView } from '@wunsch/contract';
import { newId } from '../shell/entry.ts';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { Button } from '../ui/Button.tsx';
import { FormDialog } from '../ui/FormDialog.tsx';
import { SelectField } from '../ui/Field.tsx';
import { QuantityField } from '../ui/QuantityField.tsx';
import { MadeByOptions } from './MadeByOptions.tsx';
import { useWords } from '../words/words.tsx';

/** A bar that is kept in stock: never below the floor, made up to the aim. */
export function AimDialog({
  room,
  aim,
  onClose,
}: {
  room: PlanRoomView;
  aim: PlanRoomView['aims'][number] | null;
  onClose: () => void;
}) {
  const { t } = useWords();
  const send = useEntryHere();
  const [recipeId, setRecipeId] = useState(aim?.recipeId ?? room.recipes[0]?.id ?? '');
  const [floor, setFloor] = useState<number | null>(aim?.floor ?? 20);
  const [most, setMost] = useState<number | null>(aim?.aim ?? 60);
  const isReady = recipeId !== '' && floor !== null && most !== null && most >= floor;
  const save = (of: { floor: number; aim: number }) =>
    send({
      path: `/api/stock-aims/${aim?.id ?? newId()}`,
      body: { recipeId, lotId: aim?.lotId ?? null, ...of },
      ...(aim && { ifMatch: aim.version }),
      label: t('done.plan.aim'),
      undo: true,
    });
  return (
    <FormDialog
      title={t('plan.aims')}
      description={t('plan.aims.text')}
      submit={t('plan.aim.keep')}
      isReady={isReady}
      onSubmit={() => save({ floor: floor!, aim: most! })}
      also={({ busy, run }) =>
        aim && (
          <Button look="danger" big disabled={busy} onClick={() => run(() => save({ floor: 0, aim: 0 }))}>
            {t('plan.aim.end')}
          </Button>
        )
      }
      onClose={onClose}
    >
      <SelectField label={t('plan.recipe')} value={recipeId} onChange={(e) => setRecipeId(e.target.value)}>
        <MadeByOptions recipes={room.recipes} />
      </SelectField>
      <div className="grid gap-3 sm:grid-cols-2">
        <QuantityField
          label={t('plan.aim.floor')}
          dimension="count"
          value={floor}
          onChange={setFloor}
          min={0}
          max={100_000}
        />
        <QuantityField
          label={t('plan.aim.aim')}
          dimension="count"
          value={most}
          onChange={setMost}
          min={0}
          max={100_000}
        />
      </div>
      {floor !== null && most !== null && most < floor && (
        <p role="alert" className="text-[13px] text-bad">
          {t('plan.aim.wrong')}
        </p>
      )}
    </FormDialog>
  );
}
