import { useParams } from 'react-router';
import { NotFound } from '../../../shell/NotFound.tsx';
import { isMissing } from '../../../shell/api.ts';
import { useWords } from '../../../words/words.tsx';
import { AtTheTable } from './AtTheTable.tsx';
import { Opened } from './Opened.tsx';
import { Planned } from './Planned.tsx';
import { TasteHead } from './TasteHead.tsx';
import { useTastingSession } from './useSessions.ts';

/** One session, as it stands: its plan, the table while it tastes, or everything once it is open. */
export default function SessionPage() {
  const words = useWords();
  const { t } = words;
  const { sessionId } = useParams();
  const { data: session, error } = useTastingSession(sessionId);
  if (isMissing(error))
    return (
      <div className="p-3 sm:px-4">
        <TasteHead title={t('panel.sessions')} at="session" />
        <NotFound isPage={false} />
      </div>
    );
  if (!session) return <p className="p-4 text-ink-3">{t('loading')}</p>;
  const note = [
    t('panel.n', { n: session.number }),
    t('panel.tasters.n', { n: session.seats.length }),
    t('panel.rounds.n', { n: session.rounds }),
    session.place,
    session.openedAt ? t('panel.opened.when', { when: words.when(session.openedAt) }) : null,
  ]
    .filter(Boolean)
    .join(', ');
  return (
    <div className="p-3 sm:px-4">
      {session.status === 'opened' ? (
        <Opened session={session} note={note} />
      ) : (
        <>
          <TasteHead title={session.title} at="session" note={note} />
          {session.status === 'planned' ? <Planned session={session} /> : <AtTheTable session={session} />}
        </>
      )}
    </div>
  );
}
