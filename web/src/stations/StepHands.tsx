import { useState } from 'react';
import type { Person, StepRecord } from '@wunsch/contract';
import { isWork } from '@wunsch/core/ledger';
import { useDoor, useRead } from '../shell/door.tsx';
import { mayMakeAs, useMayMake } from '../shell/session.tsx';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { Button } from '../ui/Button.tsx';
import { CheckField } from '../ui/Field.tsx';
import { FormDialog } from '../ui/FormDialog.tsx';
import { useWords } from '../words/words.tsx';

/** Initials of who was at a step: who is said to have been, or whoever entered it. */
export const handsOf = ({ hands, by }: Pick<StepRecord, 'hands' | 'by'>): string[] => hands ?? [by];

/** Who was at a step, and a way to say so where several share one tablet. Nothing where one person works alone. */
export function StepHands({ step }: { step: StepRecord }) {
  const { t } = useWords();
  const mayMake = useMayMake();
  const { isPractice } = useDoor();
  const asked = mayMake && !isPractice && (isWork(step.kind) || step.kind === 'wrap');
  const { data: people } = useRead<Person[]>(asked ? '/api/people' : null);
  const [asking, setAsking] = useState(false);
  const makers = people?.filter((p) => p.active && mayMakeAs(p.role)) ?? [];
  if (!asked || makers.length < 2) return null;
  return (
    <div className="mt-1 flex flex-wrap items-center gap-x-3 text-[13px] text-ink-3">
      <span>{t('hands.at', { who: handsOf(step).join(', ') })}</span>
      <Button look="quiet" className="text-ink-3" onClick={() => setAsking(true)}>
        {t('hands.change')}
      </Button>
      {asking && <HandsDialog step={step} makers={makers} onClose={() => setAsking(false)} />}
    </div>
  );
}

function HandsDialog({
  step,
  makers,
  onClose,
}: {
  step: StepRecord;
  makers: readonly Person[];
  onClose: () => void;
}) {
  const { t } = useWords();
  const send = useEntryHere();
  const [chosen, setChosen] = useState(() => {
    const hands = handsOf(step);
    return makers.filter((p) => hands.includes(p.initials)).map((p) => p.id);
  });
  return (
    <FormDialog
      title={t('hands.title')}
      description={t('hands.text')}
      submit={t('hands.keep')}
      isReady={chosen.length > 0}
      onSubmit={() =>
        send({
          path: `/api/steps/${step.id}/hands`,
          body: { personIds: chosen },
          label: t('hands.done', {
            who: chosen.map((id) => makers.find((p) => p.id === id)!.initials).join(', '),
          }),
          batchId: step.batchId,
          undo: true,
        })
      }
      onClose={onClose}
    >
      <div className="grid gap-x-4 sm:grid-cols-2">
        {makers.map((p) => (
          <CheckField
            key={p.id}
            label={p.name}
            checked={chosen.includes(p.id)}
            onChange={(is) => setChosen(is ? [...chosen, p.id] : chosen.filter((id) => id !== p.id))}
          />
        ))}
      </div>
    </FormDialog>
  );
}
