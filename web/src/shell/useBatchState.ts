import type { BatchBrief } from '@wunsch/contract';
import { useWords } from '../words/words.tsx';
import { useEntryHere } from './useEntryHere.ts';

/** Finishes a batch, or opens it again; a refusal is said where entries are. */
export function useBatchState(): (
  batch: Pick<BatchBrief, 'id' | 'code'>,
  state: 'finished' | 'open',
) => void {
  const { t } = useWords();
  const send = useEntryHere();
  return ({ id, code }, state) =>
    void send({
      path: `/api/batches/${id}/state`,
      body: { state },
      label: t(`done.state.${state}`, { code }),
      batchId: id,
      undo: true,
    }).catch(() => undefined);
}
