import { useState } from 'react';
import { Link } from 'react-router';
import { nextWords } from '../shell/nextWords.ts';
import { useNow } from '../shell/now.ts';
import { useBench, useMayMake } from '../shell/session.tsx';
import { TimerDialog } from '../shell/TimerDialog.tsx';
import { Button } from '../ui/Button.tsx';
import { Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';
import { dueLabel } from '../shell/dueLabel.ts';

/** What rings and what waits, in order of time, whatever the plan says. */
export function Due() {
  const words = useWords();
  const { t } = words;
  const { data: bench } = useBench();
  const now = useNow();
  const [setting, setSetting] = useState(false);
  const mayMake = useMayMake();
  if (!bench) return null;
  const timed = bench.due.filter((d) => d.at !== null);
  const loose = bench.due.filter((d) => d.at === null);
  const item = (d: (typeof bench.due)[number]) => {
    const batch = bench.batches.find((b) => b.id === d.batchId);
    const action = d.next && batch ? nextWords(batch, d.next, words) : null;
    return (
      <li key={d.id} className="border-b border-line last:border-0">
        <Link
          to={action?.path ?? (d.batchId ? `/batch/${d.batchId}` : '/plan')}
          className="grid min-h-14 grid-cols-[92px_1fr] items-center gap-x-3 py-2 hover:bg-panel-2 sm:grid-cols-[112px_88px_1fr_1fr]"
        >
          <span
            className={`num px-2 text-[15px] ${d.at && Date.parse(d.at) <= now ? 'bg-signal text-on-signal' : ''}`}
          >
            {d.at ? words.when(d.at) : ''}
          </span>
          <span className="num hidden sm:block">{d.batchCode}</span>
          <span className="min-w-0 font-semibold">
            {action?.title ?? dueLabel(d, words)}
            <span className="block font-normal text-ink-3 sm:hidden">
              {[d.batchCode, batch?.lotName].filter(Boolean).join(', ')}
            </span>
          </span>
          <span className="hidden text-ink-3 sm:block">{batch?.lotName}</span>
        </Link>
      </li>
    );
  };
  return (
    <div className="no-print grid gap-2">
      <Panel
        title={t('plan.timed')}
        aside={mayMake && <Button onClick={() => setSetting(true)}>{t('remind')}</Button>}
      >
        {timed.length > 0 ? <ul>{timed.map(item)}</ul> : <p className="text-ink-3">{t('due.none')}</p>}
      </Panel>
      <Panel title={t('plan.any')}>
        {loose.length > 0 ? <ul>{loose.map(item)}</ul> : <p className="text-ink-3">{t('plan.any.none')}</p>}
      </Panel>
      {setting && <TimerDialog onClose={() => setSetting(false)} />}
    </div>
  );
}
