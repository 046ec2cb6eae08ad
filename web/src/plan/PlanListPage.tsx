import { useState } from 'react';
import { Link } from 'react-router';
import type { DayStep } from '@wunsch/contract';
import { dayOf } from '@wunsch/core/plan';
import { useRead } from '../shell/door.tsx';
import { useNow } from '../shell/now.ts';
import { useSession } from '../shell/session.tsx';
import { Button } from '../ui/Button.tsx';
import { SelectField } from '../ui/Field.tsx';
import { Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';
import { CalendarDialog } from './CalendarDialog.tsx';
import { DayList } from './DayList.tsx';
import { Due } from './Due.tsx';
import { dayName } from './names.ts';
import { usePlanRoom } from './usePlan.ts';

/** Days that are listed. */
const DAYS = 7;

/** The plan in force as lists: who does what, day by day; and what rings. */
export default function PlanListPage() {
  const words = useWords();
  const { t } = words;
  const { person } = useSession();
  const { data: room } = usePlanRoom();
  const now = useNow(60_000);
  const [chosen, setWho] = useState<string | null>(null);
  const [calendar, setCalendar] = useState(false);
  const everyone = 'everyone';
  const own = room?.people.some((p) => p.id === person.id) ? person.id : everyone;
  const who = chosen ?? own;
  const { data: hands } = useRead<DayStep[]>(
    `/api/plan-steps?days=${DAYS + 3}${who === everyone ? '' : `&person=${who}`}`,
  );
  if (!room || !hands) return <p className="p-6 text-ink-3">{t('loading')}</p>;
  const days = [...new Set(hands.map((s) => dayOf(Date.parse(s.start), room.timeZone)))]
    .sort()
    .slice(0, DAYS);
  const people = who === everyone ? room.people : room.people.filter((p) => p.id === who);
  return (
    <div className="grid gap-2 p-3 sm:px-4">
      <header className="flex flex-wrap items-end gap-3">
        <h1 className="mr-auto text-[26px]">{t('plan.list')}</h1>
        <SelectField
          label={t('plan.person')}
          value={who}
          onChange={(e) => setWho(e.target.value)}
          className="no-print"
        >
          <option value={everyone}>{t('plan.everyone')}</option>
          {room.people.map((p) => (
            <option key={p.id} value={p.id}>
              {p.name}
            </option>
          ))}
        </SelectField>
        <div className="no-print flex gap-2">
          <Button onClick={() => setCalendar(true)}>{t('plan.calendar')}</Button>
          <Button onClick={() => window.print()}>{t('print')}</Button>
          <Link
            to="/plan"
            className="inline-flex min-h-11 items-center rounded border border-edge bg-panel px-4 font-semibold hover:bg-panel-2"
          >
            {t('plan.board')}
          </Link>
        </div>
      </header>
      {days.length === 0 && (
        <Panel>
          <p className="text-ink-2">{t(room.kept ? 'plan.list.none' : 'plan.list.no-plan')}</p>
        </Panel>
      )}
      {days.map((day) => (
        <Panel key={day} title={dayName(day, words, true)}>
          {people.map((p) => {
            const steps = hands
              .filter((s) => s.personId === p.id && dayOf(Date.parse(s.start), room.timeZone) === day)
              .sort((a, b) => a.start.localeCompare(b.start));
            if (steps.length === 0) return null;
            return (
              <section key={p.id} className="mb-2">
                {people.length > 1 && <h3 className="text-[14px] text-ink-2">{p.name}</h3>}
                <DayList steps={steps} now={now} />
              </section>
            );
          })}
        </Panel>
      ))}
      <Due />
      {calendar && <CalendarDialog onClose={() => setCalendar(false)} />}
    </div>
  );
}
