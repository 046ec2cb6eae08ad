import { BellRing } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import type { DayStep } from '@wunsch/contract';
import { ring } from '../shell/bell.ts';
import { useRead } from '../shell/door.tsx';
import { useNow } from '../shell/now.ts';
import { useSession } from '../shell/session.tsx';
import { useWords } from '../words/words.tsx';
import { doneAt } from './DayList.tsx';

const MINUTE = 60_000;

/** How long before its latest start a step rings, ms. */
const AHEAD = 15 * MINUTE;

/** How long after it a step that was not begun is still spoken of, ms: what lies there from yesterday is the plan's to mend. */
const BEHIND = 60 * MINUTE;

/** Steps that have to begin now lest a promise be late, the most pressing first. */
export const pressingSteps = (steps: readonly DayStep[], now: number): DayStep[] =>
  steps
    .filter(({ begun, latest }) => {
      const left = latest === null ? NaN : Date.parse(latest) - now;
      return !begun && left <= AHEAD && left >= -BEHIND;
    })
    .sort((a, b) => a.latest!.localeCompare(b.latest!));

/** A bell on every page when a step of whoever is signed in has to begin by the plan in force, until it has begun or was hushed. */
export function LatestBell() {
  const words = useWords();
  const { t } = words;
  const { person } = useSession();
  const now = useNow(30_000);
  const { data } = useRead<DayStep[]>(`/api/plan-steps?person=${person.id}`);
  const [quiet, setQuiet] = useState<readonly string[]>([]);
  const pressing = pressingSteps(data ?? [], now);
  const loud = pressing.filter((s) => !quiet.includes(s.key));
  const keys = loud.map((s) => s.key).join('\n');
  useEffect(() => {
    if (keys !== '') ring();
  }, [keys]);
  const [first] = loud;
  if (!first) return null;
  return (
    <div role="status" className="flex min-h-12 items-center gap-3 bg-signal px-4 text-on-signal">
      <BellRing size={20} className="shrink-0" aria-hidden="true" />
      <Link to={doneAt(first)} className="min-w-0 grow py-2">
        <strong className="underline underline-offset-4">
          {first.code}: {t(`plan.stage.${first.stage}`)}
        </strong>{' '}
        {t('plan.latest.rings', { when: words.time(first.latest!), more: loud.length - 1 })}
      </Link>
      <button
        type="button"
        className="min-h-11 px-2 font-semibold"
        onClick={() => setQuiet([...quiet, ...loud.map((s) => s.key)])}
      >
        {t('watch.quiet')}
      </button>
    </div>
  );
}
