import { useState } from 'react';
import { RUNS_LOOKED_AT, USUAL_SIGN_OFF } from '@wunsch/core/skills';
import { useSession } from '../shell/session.tsx';
import { useHabits } from '../shell/useHabits.ts';
import { Button } from '../ui/Button.tsx';
import { FormDialog } from '../ui/FormDialog.tsx';
import { QuantityField } from '../ui/QuantityField.tsx';
import { useWords } from '../words/words.tsx';

/** When somebody counts as ready to be signed off; an owner's to change. */
export function SignOffRule() {
  const { t } = useWords();
  const { workshop, person } = useSession();
  const [changing, setChanging] = useState(false);
  const { goodRuns, points } = workshop.signOff ?? USUAL_SIGN_OFF;
  return (
    <div className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-1 text-[13.5px]">
      <p className="max-w-prose">{t('skills.rule', { n: goodRuns, of: RUNS_LOOKED_AT, points })}</p>
      {person.role === 'owner' && (
        <Button look="quiet" onClick={() => setChanging(true)}>
          {t('skills.rule.change')}
        </Button>
      )}
      {changing && <RuleDialog rule={{ goodRuns, points }} onClose={() => setChanging(false)} />}
    </div>
  );
}

function RuleDialog({ rule, onClose }: { rule: { goodRuns: number; points: number }; onClose: () => void }) {
  const { t } = useWords();
  const save = useHabits();
  const [goodRuns, setGoodRuns] = useState<number | null>(rule.goodRuns);
  const [points, setPoints] = useState<number | null>(rule.points);
  return (
    <FormDialog
      title={t('skills.rule.title')}
      description={t('skills.rule.text')}
      submit={t('settings.save')}
      isReady={goodRuns !== null && points !== null}
      onSubmit={() => save({ signOff: { goodRuns: goodRuns!, points: points! } })}
      onClose={onClose}
    >
      <QuantityField
        label={t('skills.rule.runs', { of: RUNS_LOOKED_AT })}
        dimension="count"
        value={goodRuns}
        onChange={setGoodRuns}
        min={1}
        max={RUNS_LOOKED_AT}
      />
      <QuantityField
        label={t('skills.rule.points')}
        dimension="count"
        value={points}
        onChange={setPoints}
        min={1}
        max={100}
      />
    </FormDialog>
  );
}
