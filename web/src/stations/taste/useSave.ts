import type { BatchView, TastingPut } from '@wunsch/contract';
import { newId } from '../../shell/entry.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { useWords } from '../../words/words.tsx';

/** Keeps a tasting card of a batch; can be undone. */
export function useSave(view: BatchView) {
  const { t } = useWords();
  const send = useEntryHere();
  return (card: TastingPut['card']) =>
    send({
      path: `/api/tastings/${newId()}`,
      body: { batchId: view.batch.id, card },
      label: t('done.tasting', { code: view.batch.code }),
      batchId: view.batch.id,
      undo: true,
    });
}
