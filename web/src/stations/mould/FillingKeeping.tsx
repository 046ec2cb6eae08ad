import { useState } from 'react';
import type { StepRecord } from '@wunsch/contract';
import { fillingKeepsUntil } from '@wunsch/core/mould';
import { useMayMake } from '../../shell/session.tsx';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { TextField } from '../../ui/Field.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { todayAt } from '../today.ts';

/** Saying later how long a filling keeps: its water is measured when it has set. */
export function FillingKeeping({ step }: { step: StepRecord }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const mayMake = useMayMake();
  const [asking, setAsking] = useState(false);
  const [water, setWater] = useState<number | null>(step.details.waterActivity ?? null);
  const [day, setDay] = useState<string | null>(null);
  const madeOn = todayAt(Date.parse(step.endedAt ?? step.startedAt));
  const measured = water === null ? null : fillingKeepsUntil(madeOn, water);
  const bestBefore = day ?? measured ?? step.details.bestBefore ?? '';
  if (!mayMake) return null;
  const keep = () => {
    const { waterActivity: _, bestBefore: __, ...details } = step.details;
    return send({
      path: `/api/steps/${step.id}/details`,
      body: {
        details: {
          ...details,
          ...(water !== null && { waterActivity: water }),
          ...(bestBefore && { bestBefore }),
        },
      },
      ifMatch: step.version,
      label: t('done.filling.keeping', { name: step.details.fillingName ?? '' }),
    });
  };
  return (
    <>
      <Button className="mt-2" onClick={() => setAsking(true)}>
        {t('filling.keeping')}
      </Button>
      {asking && (
        <FormDialog
          title={t('filling.keeping')}
          description={t('filling.keeping.text')}
          submit={t('filling.keeping.do')}
          onSubmit={keep}
          onClose={() => setAsking(false)}
        >
          <div className="grid gap-3 sm:grid-cols-2">
            <QuantityField
              label={t('shell.water')}
              dimension="number"
              value={water}
              onChange={setWater}
              min={0}
              max={1}
              optional
              autoFocus
              hint={t('filling.water.hint')}
            />
            <TextField
              label={t('sheet.bestBefore')}
              type="date"
              value={bestBefore}
              onChange={(e) => setDay(e.target.value)}
              hint={t('filling.best.hint')}
            />
          </div>
        </FormDialog>
      )}
    </>
  );
}
