import type { BatchView, TastingPut } from '@wunsch/contract';
import { newId } from '../../shell/entry.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { useWords } from '../../words/words.tsx';

/** Sends a card on its way; rejects where it is refused. */
export type SaveCard = (card: TastingPut['card']) => Promise<unknown>;

/** Keeps a tasting card of a batch; can be undone. */
export function useSave(view: BatchView): SaveCard {
  const { t } = useWords();
  const send = useEntryHere();
  return (card) =>
    send({
      path: `/api/tastings/${newId()}`,
      body: { batchId: view.batch.id, card },
      label: t('done.tasting', { code: view.batch.code }),
      batchId: view.batch.id,
      undo: true,
    });
}
