import { useNavigate, useParams } from 'react-router';
import type { TastingSession } from '@wunsch/contract';
import { Button } from '../../../ui/Button.tsx';
import { useWords } from '../../../words/words.tsx';
import { QuestionOfPlan } from './QuestionOfPlan.tsx';
import { SamplesOfPlan } from './SamplesOfPlan.tsx';
import { SeatsOfPlan } from './SeatsOfPlan.tsx';
import { TasteHead } from './TasteHead.tsx';
import { useSessionPlan } from './useSessionPlan.ts';
import { useTastingSession } from './useSessions.ts';

/** Planning a session: what is asked, what is on the table, and who sits at it. */
function Plan({ session }: { session: TastingSession | null }) {
  const { t } = useWords();
  const navigate = useNavigate();
  const plan = useSessionPlan(session);
  const { missing, save, forget } = plan;
  const leave = () => {
    forget();
    void navigate(-1);
  };
  return (
    <form
      className="grid gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (missing === null) save();
      }}
    >
      <QuestionOfPlan plan={plan} />
      <SamplesOfPlan plan={plan} />
      <SeatsOfPlan plan={plan} />
      <div className="flex flex-wrap gap-2">
        <Button type="submit" look="main" big disabled={missing !== null}>
          {t('panel.save')}
        </Button>
        <Button big look="quiet" onClick={leave}>
          {t('cancel')}
        </Button>
        {missing && <p className="self-center text-[13px] text-ink-2">{t(missing)}</p>}
      </div>
    </form>
  );
}

/** A new session, or the plan of one that has not begun. */
export default function PlanSession() {
  const { t } = useWords();
  const { sessionId } = useParams();
  const { data } = useTastingSession(sessionId);
  return (
    <div className="p-3 sm:px-4">
      <TasteHead title={t(sessionId ? 'panel.change' : 'panel.plan')} at="session" />
      {sessionId ? data && <Plan key={data.id} session={data} /> : <Plan session={null} />}
    </div>
  );
}
