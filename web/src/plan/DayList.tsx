import { Link } from 'react-router';
import type { DayStep } from '@wunsch/contract';
import { useWords } from '../words/words.tsx';
import { setUpWords } from './names.ts';

/** Where a step is done: the machine that is made ready, the page of the batch, or the board. */
export const doneAt = (s: DayStep): string => {
  if (s.isReady && s.machineId !== null) return `/machine/${s.machineId}`;
  return s.batchId ? `/batch/${s.batchId}` : '/plan';
};

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
                {s.isReady ? <Ready of={s} /> : <Work of={s} />}
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

/** What is done at a step. Who makes its machine ready has that on a line of their own; here it is told where nobody does. */
function Work({ of: s }: { of: DayStep }) {
  const words = useWords();
  return (
    <>
      <b>{words.t(`plan.stage.${s.stage}`)}</b>
      {s.parts > 1 && ` ${s.part}/${s.parts}`}
      <span className="text-ink-3">
        {s.bars !== undefined
          ? ` ${words.t('plan.bars.n', { n: s.bars })}`
          : s.massMg > 0 && s.stage !== 'taste'
            ? ` ${words.mass(s.massMg)}`
            : ''}
        {s.machine ? `, ${s.machine}` : ''}
      </span>
      {s.setUp && !s.setUp.hands && !s.begun && (
        <span className={`block text-[12.5px] ${s.setUp.hands === null ? 'text-bad' : 'text-ink-2'}`}>
          {setUpWords(s, s.machine ?? '', words)}
        </span>
      )}
    </>
  );
}

/** A machine made ready for a charge: what is done to it, after what. */
function Ready({ of: s }: { of: DayStep }) {
  const { t } = useWords();
  const { kind, after } = s.setUp!;
  return (
    <>
      <b>{t(`plan.ready.${kind}`, { machine: s.machine ?? '' })}</b>
      {after !== null && <span className="text-ink-3"> {t('plan.set-up.after', { code: after })}</span>}
    </>
  );
}
