import { Link } from 'react-router';
import type { TastingSession } from '@wunsch/contract';
import { newId } from '../../../shell/entry.ts';
import { useMayMake } from '../../../shell/session.tsx';
import { useEntryHere } from '../../../shell/useEntryHere.ts';
import { Button } from '../../../ui/Button.tsx';
import { Panel } from '../../../ui/Panel.tsx';
import { useWords } from '../../../words/words.tsx';
import { Reach } from './Reach.tsx';
import { sessionPath } from './useSessions.ts';

/** A plan that waits for its table to be set. */
export function Planned({ session }: { session: TastingSession }) {
  const { t } = useWords();
  const send = useEntryHere();
  const mayMake = useMayMake();
  const choice = session.question === 'different' ? session.test : null;
  return (
    <div className="grid gap-2 lg:grid-cols-2">
      <Panel title={t('panel.samples')} aside={t(`panel.question.${session.question}`)}>
        <ul>
          {session.samples.map((s) => (
            <li key={s.id} className="border-b border-line py-2">
              <span className="font-semibold">{s.label}</span>
              {s.other && (
                <span className="block text-[12.5px] text-ink-3">
                  {[s.other.maker, s.other.words].filter(Boolean).join(', ')}
                </span>
              )}
            </li>
          ))}
        </ul>
        {session.samples.length === 0 && <p>{t('panel.samples.n', { n: session.samplesCount })}</p>}
      </Panel>
      <Panel title={t('panel.seats')} aside={t('panel.tasters.n', { n: session.seats.length })}>
        <ul className="mb-3">
          {session.seats.map((s) => (
            <li key={s.id} className="border-b border-line py-2">
              {s.name || t('panel.seat.free')}
            </li>
          ))}
        </ul>
        <Reach choice={choice} tasters={session.seats.length} rounds={session.rounds} />
      </Panel>
      {mayMake && (
        <Panel className="lg:col-span-2">
          <p className="mb-3 max-w-prose text-[13.5px]">{t('panel.set.text')}</p>
          <p className="mb-3 max-w-prose text-[13.5px] text-ink-3">
            {t('panel.water', { n: session.flight })}
          </p>
          <div className="flex flex-wrap gap-2">
            <Button
              look="main"
              big
              onClick={() =>
                void send({
                  path: `/api/tasting-session-beginnings/${newId()}`,
                  body: { sessionId: session.id },
                  label: t('done.panel.begin', { title: session.title }),
                  undo: true,
                }).catch(() => undefined)
              }
            >
              {t('panel.set')}
            </Button>
            <Link
              to={sessionPath(session.id, '/plan')}
              className="grid min-h-12 place-items-center rounded border border-edge bg-panel px-5 font-semibold hover:bg-panel-2"
            >
              {t('panel.change')}
            </Link>
          </div>
        </Panel>
      )}
    </div>
  );
}
