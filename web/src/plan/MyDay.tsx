import { Link } from 'react-router';
import type { DayStep } from '@wunsch/contract';
import { useRead } from '../shell/door.tsx';
import { useSession } from '../shell/session.tsx';
import { Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';
import { DayList } from './DayList.tsx';

/** Most steps shown at once. */
const MOST = 6;

/** Today’s steps of whoever is signed in, by the plan in force; nothing where there are none. Doing the work ticks them off. */
export function MyDay({ now }: { now: number }) {
  const { t } = useWords();
  const { person } = useSession();
  const { data } = useRead<DayStep[]>(`/api/plan-steps?person=${person.id}`);
  if (!data || data.length === 0) return null;
  return (
    <Panel
      title={t('plan.my-day')}
      aside={
        <Link to="/plan/list" className="font-semibold underline underline-offset-4">
          {t('plan.list')}
        </Link>
      }
    >
      <DayList steps={data.slice(0, MOST)} now={now} />
    </Panel>
  );
}
