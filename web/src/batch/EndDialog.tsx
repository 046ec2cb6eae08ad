import { useState } from 'react';
import type { BatchView } from '@wunsch/contract';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { TextField } from '../ui/Field.tsx';
import { useWords } from '../words/words.tsx';

/** Abandons or voids a batch, with the reason that is kept. */
export function EndDialog({
  view,
  state,
  onClose,
}: {
  view: BatchView;
  state: 'void' | 'abandoned';
  onClose: () => void;
}) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const [reason, setReason] = useState('');
  const [error, setError] = useState<string | null>(null);
  return (
    <Dialog
      open
      onClose={onClose}
      title={t(state === 'void' ? 'batch.void' : 'batch.abandon')}
      description={t(state === 'void' ? 'batch.void.text' : 'batch.abandon.text', { code: view.batch.code })}
    >
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          send({
            path: `/api/batches/${view.batch.id}/state`,
            body: { state, reason },
            label: t(`done.state.${state}`, { code: view.batch.code }),
            batchId: view.batch.id,
            undo: true,
          }).then(onClose, (failure: unknown) => setError(words.explain(failure)));
        }}
      >
        <TextField
          label={t('batch.why')}
          value={reason}
          onChange={(e) => setReason(e.target.value)}
          required
          maxLength={400}
          error={error}
          autoFocus
        />
        <Button type="submit" look="danger" big disabled={reason.trim() === ''}>
          {t(state === 'void' ? 'batch.void' : 'batch.abandon')}
        </Button>
      </form>
    </Dialog>
  );
}
