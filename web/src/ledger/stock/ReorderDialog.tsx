import { useState } from 'react';
import type { StockPace } from '@wunsch/contract';
import { newId } from '../../shell/entry.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
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
  const [error, setError] = useState<string | null>(null);
  const what = paceName(of, words);
  const lasting = Math.round((of.used / of.days) * PROPOSED_DAYS);
  const keep = (atLeast: number | null) =>
    send({
      path: `/api/reorder-points/${newId()}`,
      body: { kind: of.kind, key: of.key, atLeast },
      label:
        atLeast === null
          ? t('done.reorder.none', { what })
          : t('done.reorder', { what, amount: paceAmount(of, atLeast, words) }),
      undo: true,
    }).then(onClose, (failure: unknown) => setError(words.explain(failure)));
  return (
    <Dialog open onClose={onClose} title={t('reorder.set', { what })} description={t('reorder.text')}>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (amount !== null) void keep(amount);
        }}
      >
        <QuantityField
          label={t('reorder')}
          dimension={of.kind === 'ingredient' ? 'mass' : 'count'}
          value={amount}
          onChange={setAmount}
          min={1}
          error={error}
          hint={lasting > 0 ? t('reorder.suggest', { amount: paceAmount(of, lasting, words) }) : undefined}
        />
        <div className="flex flex-wrap gap-2">
          <Button type="submit" look="main" big disabled={amount === null}>
            {t('reorder.keep')}
          </Button>
          {of.reorderAt !== null && (
            <Button big onClick={() => void keep(null)}>
              {t('reorder.none')}
            </Button>
          )}
        </div>
      </form>
    </Dialog>
  );
}
