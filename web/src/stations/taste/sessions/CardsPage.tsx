import { useParams } from 'react-router';
import { newId } from '../../../shell/entry.ts';
import { useEntryHere } from '../../../shell/useEntryHere.ts';
import { EmptyState } from '../../../ui/Panel.tsx';
import { useWords } from '../../../words/words.tsx';
import { Glasses } from './Glasses.tsx';
import { PaperCards } from './PaperCards.tsx';
import { TasteHead } from './TasteHead.tsx';
import { useGlasses, useTastingSession } from './useSessions.ts';
import { useWithWaiting } from './useWithWaiting.ts';

/** One’s own glasses, or another seat’s cards typed in from paper. */
export default function CardsPage() {
  const { t } = useWords();
  const { sessionId, seatId } = useParams();
  const { data: session } = useTastingSession(sessionId);
  const { data: told, mutate } = useGlasses(sessionId ?? null, seatId);
  const { glasses } = useWithWaiting(told, {
    seatId: seatId ?? session?.mySeatId ?? undefined,
    isChoice: session?.question === 'different',
    remember: (tasted) => void mutate((list) => list?.map(tasted), { revalidate: false }),
  });
  const send = useEntryHere();
  if (!session || !glasses) return <p className="p-4 text-ink-3">{t('loading')}</p>;
  const seat = session.seats.find((s) => s.id === (seatId ?? session.mySeatId));
  const number = session.seats.findIndex((s) => s.id === seat?.id) + 1;
  const isPaper = seatId !== undefined && seatId !== session.mySeatId;
  const name = seat?.name || t('panel.seat.n', { n: number });
  const card: Parameters<typeof Glasses>[0]['save'] = (glass, said) =>
    send({
      path: `/api/session-cards/${newId()}`,
      body: {
        sessionId: session.id,
        seatId: seat!.id,
        round: glass.round,
        place: session.question === 'different' ? 1 : glass.place,
        card: said,
        fromPaper: isPaper,
      },
      label: t('panel.card.saved', { code: said.form === 'choice' ? said.code : glass.code }),
      undo: true,
    }).then(() => mutate());
  return (
    <div className="p-3 sm:px-4">
      <TasteHead title={isPaper ? t('panel.paper.of', { name }) : session.title} at="session" />
      {session.status !== 'tasting' || !seat ? (
        <EmptyState title={t('panel.done')}>{t('panel.done.text')}</EmptyState>
      ) : isPaper && session.card === 'quick' && session.question !== 'different' ? (
        <PaperCards key={seat.id} session={session} seatId={seat.id} glasses={glasses} save={card} />
      ) : (
        <Glasses seatId={seat.id} session={session} glasses={glasses} save={card} />
      )}
    </div>
  );
}
