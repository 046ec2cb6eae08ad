import { useEffect, useState, useSyncExternalStore } from 'react';
import { Button } from '../ui/Button.tsx';
import { useWords } from '../words/words.tsx';
import { useDoor, useRead } from './door.tsx';
import { ApiProblem, ServerAway } from './api.ts';
import type { OutboxEntry } from './outbox.ts';
import { LOOK_EVERY } from './release.ts';
import { useSession } from './session.tsx';

/** Entries that are named; however many wait, the page below must be seen. */
const NAMED = 4;

/** What is on its way, what was refused, and whether the workshop can be reached at all. */
export function OutboxBar() {
  const { t, explain } = useWords();
  const { outbox } = useDoor();
  const { person } = useSession();
  const all = useSyncExternalStore(outbox.subscribe, outbox.waiting);
  const isOther = ({ by }: OutboxEntry) => by !== undefined && by !== person.id;
  const waiting = all.filter((e) => !isOther(e));
  const others = all.length - waiting.length;
  const away = useAway();
  const refused = useSyncExternalStore(outbox.subscribe, outbox.refused);
  const [slow, setSlow] = useState(false);
  useEffect(() => {
    if (waiting.length === 0) {
      setSlow(false);
      return;
    }
    const timer = setTimeout(() => setSlow(true), 700);
    return () => clearTimeout(timer);
  }, [waiting.length]);
  if (!away && refused.length === 0 && others === 0 && !(slow && waiting.length > 0)) return null;
  return (
    <div className="no-print border-b border-line-2 bg-panel px-4 py-2 text-[13px]" role="status">
      {away && <p className="font-semibold">{t('error.away')}</p>}
      {slow && waiting.length > 0 && (
        <p>
          <strong>{t('outbox.title', { n: waiting.length })}</strong>{' '}
          {waiting
            .slice(0, NAMED)
            .map((e) => e.label)
            .join(' · ')}
          {waiting.length > NAMED && ' …'}
        </p>
      )}
      {others > 0 && <p>{t('outbox.others', { n: others })}</p>}
      {refused.slice(0, NAMED).map((e) => (
        <p key={e.id} className="flex flex-wrap items-center gap-2 text-bad">
          <strong>{t('outbox.refused', { label: e.label })}</strong>{' '}
          {e.problem ? explain(new ApiProblem(e.problem)) : e.reason}
          <Button look="quiet" onClick={() => void outbox.forget(e.id)}>
            {t('outbox.read')}
          </Button>
        </p>
      ))}
      {refused.length > NAMED && (
        <p className="text-bad">{t('outbox.more', { n: refused.length - NAMED })}</p>
      )}
    </div>
  );
}

/** Whether the server, or its database, does not answer at the moment. */
function useAway(): boolean {
  const { error } = useRead('/api/health/ready', {
    refreshInterval: LOOK_EVERY,
    shouldRetryOnError: true,
    errorRetryInterval: 2000,
  });
  return error instanceof ServerAway;
}
