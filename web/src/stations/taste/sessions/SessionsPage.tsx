import { Plus } from 'lucide-react';
import { Link, useNavigate } from 'react-router';
import type { TastingSession } from '@wunsch/contract';
import { useMayMake } from '../../../shell/session.tsx';
import { Button } from '../../../ui/Button.tsx';
import { Chip, EmptyState } from '../../../ui/Panel.tsx';
import { useWords } from '../../../words/words.tsx';
import { TasteHead } from './TasteHead.tsx';
import { sessionPath, useSessions } from './useSessions.ts';

/** One session in the list: what is asked, of what, and where it stands. */
function SessionRow({ session }: { session: TastingSession }) {
  const words = useWords();
  const { t } = words;
  const of = session.seats.reduce((sum, s) => sum + s.of, 0);
  const when = session.openedAt ?? session.begunAt ?? session.plannedFor ?? session.createdAt;
  return (
    <li>
      <Link
        to={sessionPath(session.id)}
        className="panel grid min-h-[86px] grid-cols-[1fr_auto] items-center gap-x-4 gap-y-1 p-4 hover:bg-panel-2"
      >
        <span className="min-w-0">
          <span className="block text-[12.5px] text-ink-3">
            {[
              t('panel.n', { n: session.number }),
              t(`panel.question.${session.question}`),
              words.when(when),
            ].join(' · ')}
          </span>
          <span className="block text-[18px] font-semibold leading-tight">{session.title}</span>
          <span className="block text-[13px] text-ink-2">
            {session.samples.length > 0
              ? session.samples.map((s) => s.label).join(', ')
              : t('panel.samples.n', { n: session.samplesCount })}
          </span>
        </span>
        <span className="grid justify-items-end gap-1 text-right">
          <Chip tone={session.status === 'opened' ? 'ok' : 'plain'}>
            {session.status === 'tasting' && <span aria-hidden="true">●&nbsp;</span>}
            {t(`panel.status.${session.status}`)}
          </Chip>
          <span className="num text-[13px] text-ink-2">
            {session.status === 'planned'
              ? t('panel.tasters.n', { n: session.seats.length })
              : t('panel.seat.done', { done: session.cards, of })}
          </span>
        </span>
      </Link>
    </li>
  );
}

/** Every session, the newest first. */
export default function SessionsPage() {
  const { t } = useWords();
  const { data } = useSessions();
  const mayMake = useMayMake();
  const navigate = useNavigate();
  const begin = () => void navigate(sessionPath('new'));
  return (
    <div className="p-3 sm:px-4">
      <TasteHead title={t('panel.sessions')} at="sessions">
        {mayMake && data && data.length > 0 && (
          <Button look="main" icon={<Plus size={16} aria-hidden="true" />} onClick={begin}>
            {t('panel.new')}
          </Button>
        )}
      </TasteHead>
      {data?.length === 0 && (
        <EmptyState
          title={t('panel.sessions')}
          action={
            mayMake && (
              <Button look="main" big onClick={begin}>
                {t('panel.new')}
              </Button>
            )
          }
        >
          {`${t('panel.sessions.text')} ${t('panel.none')}`}
        </EmptyState>
      )}
      <ul className="grid gap-2">
        {data?.map((session) => (
          <SessionRow key={session.id} session={session} />
        ))}
      </ul>
    </div>
  );
}
