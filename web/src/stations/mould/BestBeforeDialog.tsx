import { useState } from 'react';
import type { BatchView, StepRecord } from '@wunsch/contract';
import { bestBefore } from '@wunsch/core/mould';
import { useSession } from '../../shell/session.tsx';
import { TextField } from '../../ui/Field.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { useWords } from '../../words/words.tsx';
import { todayAt } from '../today.ts';
import { useWork } from '../work.ts';
import { chocolateType } from './Pour.tsx';

/** Until when the bars of a moulding keep, said or changed afterwards; as long as such bars usually keep here, until somebody says otherwise. */
export function BestBeforeDialog({
  view,
  step,
  onClose,
}: {
  view: BatchView;
  step: StepRecord;
  onClose: () => void;
}) {
  const words = useWords();
  const { t } = words;
  const { workshop } = useSession();
  const work = useWork(view);
  const madeOn = step.details.madeOn ?? todayAt(Date.parse(step.endedAt ?? step.startedAt));
  const usual = bestBefore(madeOn, workshop.keepingMonths[chocolateType(view)]);
  const [day, setDay] = useState(step.details.bestBefore ?? usual);
  const isBefore = day !== '' && day <= madeOn;
  return (
    <FormDialog
      title={t('best-before.title')}
      description={t('best-before.text')}
      submit={t('best-before.keep')}
      isReady={day !== '' && !isBefore && day !== step.details.bestBefore}
      onSubmit={() => work.details(step, { bestBefore: day })}
      onClose={onClose}
    >
      <TextField
        label={t('best-before')}
        type="date"
        value={day}
        onChange={(e) => setDay(e.target.value)}
        hint={t('best-before.usual', { made: words.day(madeOn), day: words.day(usual) })}
        error={isBefore ? t('best-before.early') : null}
      />
    </FormDialog>
  );
}
