import { useState } from 'react';
import { RUNS_LOOKED_AT, USUAL_SIGN_OFF } from '@wunsch/core/skills';
import { useSession } from '../shell/session.tsx';
import { useHabits } from '../shell/useHabits.ts';
import { Button } from '../ui/Button.tsx';
import { TextField } from '../ui/Field.tsx';
import { FormDialog } from '../ui/FormDialog.tsx';
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

/** Whole number typed; null for anything else. */
const whole = (text: string, most: number) =>
  /^\d{1,3}$/.test(text.trim()) && Number(text) >= 1 && Number(text) <= most ? Number(text) : null;

function RuleDialog({ rule, onClose }: { rule: { goodRuns: number; points: number }; onClose: () => void }) {
  const { t } = useWords();
  const save = useHabits();
  const [runs, setRuns] = useState(String(rule.goodRuns));
  const [points, setPoints] = useState(String(rule.points));
  const said = { goodRuns: whole(runs, RUNS_LOOKED_AT), points: whole(points, 100) };
  const outside = (value: number | null, most: number) =>
    value === null ? t('skills.rule.outside', { most }) : null;
  return (
    <FormDialog
      title={t('skills.rule.title')}
      description={t('skills.rule.text')}
      submit={t('settings.save')}
      isReady={said.goodRuns !== null && said.points !== null}
      onSubmit={() => save({ signOff: { goodRuns: said.goodRuns!, points: said.points! } })}
      onClose={onClose}
    >
      <TextField
        label={t('skills.rule.runs', { of: RUNS_LOOKED_AT })}
        value={runs}
        onChange={(e) => setRuns(e.target.value)}
        inputMode="numeric"
        error={outside(said.goodRuns, RUNS_LOOKED_AT)}
      />
      <TextField
        label={t('skills.rule.points')}
        value={points}
        onChange={(e) => setPoints(e.target.value)}
        inputMode="numeric"
        error={outside(said.points, 100)}
      />
    </FormDialog>
  );
}
