import { useState } from 'react';
import type { StepRecord } from '@wunsch/contract';
import { isWork } from '@wunsch/core/ledger';
import { useMayMake } from '../shell/session.tsx';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { Button } from '../ui/Button.tsx';
import { TextField } from '../ui/Field.tsx';
import { FormDialog } from '../ui/FormDialog.tsx';
import { useWords } from '../words/words.tsx';

/** Takes a step out of the books that was a mistake: all it took goes back, and the reason is kept. */
export function VoidStep({ step }: { step: StepRecord }) {
  const { t } = useWords();
  const send = useEntryHere();
  const mayMake = useMayMake();
  const [asking, setAsking] = useState(false);
  const [reason, setReason] = useState('');
  if (!mayMake || !(isWork(step.kind) || step.kind === 'prepare')) return null;
  const station = step.details.fillingName ?? t(`station.${step.station}`);
  return (
    <>
      <Button look="quiet" className="mt-1 text-ink-3" onClick={() => setAsking(true)}>
        {t('step.void')}
      </Button>
      {asking && (
        <FormDialog
          title={t('step.void.title', { station })}
          description={t('step.void.text')}
          submit={t('step.void.do')}
          isReady={reason.trim() !== ''}
          onSubmit={() =>
            send({
              path: `/api/steps/${step.id}/void`,
              body: { reason: reason.trim() },
              label: t('done.step.void', { station }),
              batchId: step.batchId,
              undo: true,
            })
          }
          onClose={() => setAsking(false)}
        >
          <TextField
            label={t('batch.why')}
            value={reason}
            onChange={(e) => setReason(e.target.value)}
            maxLength={400}
            required
          />
        </FormDialog>
      )}
    </>
  );
}
