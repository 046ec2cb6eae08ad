import type { StockItem } from '@wunsch/contract';
import { newId } from '../../shell/entry.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { useWords } from '../../words/words.tsx';

/** Puts parcels of the same thing together; answers whether it was accepted. */
export function useJoin(): (items: readonly StockItem[]) => Promise<boolean> {
  const { t } = useWords();
  const send = useEntryHere();
  return (items) =>
    send({
      path: `/api/joinings/${newId()}`,
      body: {
        parcels: items.map((i) => ({ parcelId: i.id, takenId: newId() })),
        madeId: newId(),
        parcelId: newId(),
      },
      label: t('done.join', { n: items.length }),
      batchId: items[0]?.batchId ?? null,
      undo: true,
    }).then(
      () => true,
      () => false,
    );
}
