import { Link } from 'react-router';
import type { BatchView, Reminder } from '@wunsch/contract';
import type { Station } from '@wunsch/core/ledger';
import { useRead } from '../shell/door.tsx';
import { useMayMake } from '../shell/session.tsx';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { Button } from '../ui/Button.tsx';
import { useWords } from '../words/words.tsx';

/** What this station is to be reminded of for this batch, from cases that were closed. */
export function Reminders({ station, view }: { station: Station; view: BatchView }) {
  const { t } = useWords();
  const send = useEntryHere();
  const mayMake = useMayMake();
  const { data } = useRead<Reminder[]>('/api/reminders');
  const here = (data ?? []).filter(
    (r) =>
      r.station === station &&
      (r.lotId === null || r.lotId === view.lot.id) &&
      (r.recipeId === null || r.recipeIds.includes(view.recipe?.id ?? '')),
  );
  if (here.length === 0) return null;
  return (
    <section aria-label={t('reminders')} className="mb-3 rounded border-2 border-signal bg-panel px-4 py-2">
      <ul>
        {here.map((r) => (
          <li key={r.id} className="flex flex-wrap items-center gap-x-4 gap-y-1 py-1 text-[14.5px]">
            <span className="min-w-0 flex-1">
              <b>{r.text}</b>{' '}
              {r.caseId && r.caseNumber !== null && (
                <Link
                  to={`/case/${r.caseId}`}
                  className="whitespace-nowrap text-[13px] underline underline-offset-4"
                >
                  {t('reminder.from', { n: r.caseNumber })}
                </Link>
              )}
            </span>
            {mayMake && (
              <Button
                onClick={() =>
                  void send({
                    path: `/api/reminders/${r.id}/done`,
                    body: {},
                    label: t('done.reminder'),
                    undo: true,
                  }).catch(() => undefined)
                }
              >
                {t('reminder.done')}
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
