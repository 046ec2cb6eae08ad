import { Link } from 'react-router';
import type { DayStep } from '@wunsch/contract';
import { useWords } from '../words/words.tsx';
import { setUpWords } from './names.ts';

/** Where a step is done: the page of its station for its batch, or the board. */
export const doneAt = (s: DayStep): string => (s.batchId ? `/batch/${s.batchId}` : '/plan');

/** Steps of one person on one day. What is done goes by itself: real entries move the plan on. */
export function DayList({ steps, now }: { steps: readonly DayStep[]; now: number }) {
  const words = useWords();
  const { t } = words;
  return (
    <ul>
      {steps.map((s) => {
        const isLate = s.latest !== null && Date.parse(s.latest) < now && !s.begun;
        return (
          <li key={s.key} className="border-b border-line last:border-0">
            <Link
              to={doneAt(s)}
              className="grid min-h-12 grid-cols-[104px_1fr] items-center gap-x-3 py-1.5 hover:bg-panel-2 sm:grid-cols-[104px_84px_1fr_auto]"
            >
              <span className={`num text-[15px] ${isLate ? 'bg-signal px-1 text-on-signal' : ''}`}>
                {words.time(s.start)}–{words.time(s.end)}
              </span>
              <span className="num font-semibold">{s.code}</span>
              <span className="col-span-2 min-w-0 sm:col-span-1">
                <b>{t(`plan.stage.${s.stage}`)}</b>
                {s.parts > 1 && ` ${s.part}/${s.parts}`}
                <span className="text-ink-3">
                  {s.massMg > 0 ? ` ${words.mass(s.massMg)}` : ''}
                  {s.machine ? `, ${s.machine}` : ''}
                </span>
                {s.setUp && !s.begun && (
                  <span className="block text-[12.5px] text-ink-2">
                    {setUpWords(s, s.machine ?? '', words)}
                  </span>
                )}
              </span>
              <span className="num col-span-2 text-[12.5px] text-ink-3 sm:col-span-1">
                {s.latest ? t('plan.latest', { when: words.when(s.latest) }) : ''}
              </span>
            </Link>
          </li>
        );
      })}
    </ul>
  );
}
