import { useState } from 'react';
import type { StockPace } from '@wunsch/contract';
import { newId } from '../../shell/entry.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { paceAmount, paceName } from './names.ts';

/** What lasts so long is proposed, days. */
const PROPOSED_DAYS = 14;

/** Saying from when on something is to be ordered, or made, again. */
export function ReorderDialog({ of, onClose }: { of: StockPace; onClose: () => void }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const [amount, setAmount] = useState<number | null>(of.reorderAt);
  const [days, setDays] = useState<number | null>(of.deliveryDays);
  const what = paceName(of, words);
  const lasting = Math.round((of.used / of.days) * PROPOSED_DAYS);
  const keep = (atLeast: number | null) =>
    send({
      path: `/api/reorder-points/${newId()}`,
      body: { kind: of.kind, key: of.key, atLeast, ...(days !== null && { deliveryDays: days }) },
      label:
        atLeast !== null
          ? t('done.reorder', { what, amount: paceAmount(of, atLeast, words) })
          : days !== null && of.reorderAt === null
            ? t('done.reorder.days', { what, n: days })
            : t('done.reorder.none', { what }),
      undo: true,
    });
  return (
    <FormDialog
      title={t('reorder.set', { what })}
      description={t('reorder.text')}
      submit={t('reorder.keep')}
      isReady={amount !== null || days !== null || of.deliveryDays !== null}
      onSubmit={() => keep(amount)}
      also={({ busy, run }) =>
        of.reorderAt !== null && (
          <Button big disabled={busy} onClick={() => run(() => keep(null))}>
            {t('reorder.none')}
          </Button>
        )
      }
      onClose={onClose}
    >
      <QuantityField
        label={t('reorder')}
        dimension={of.kind === 'ingredient' ? 'mass' : 'count'}
        value={amount}
        onChange={setAmount}
        min={1}
        hint={lasting > 0 ? t('reorder.suggest', { amount: paceAmount(of, lasting, words) }) : undefined}
        optional
      />
      {of.kind !== 'bars' && (
        <QuantityField
          label={t('reorder.days')}
          dimension="number"
          value={days}
          onChange={setDays}
          min={0}
          max={365}
          hint={t('reorder.days.hint')}
          optional
        />
      )}
    </FormDialog>
  );
}
