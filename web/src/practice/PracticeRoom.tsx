import { useEffect, useMemo } from 'react';
import { useLocation, useNavigate, useParams } from 'react-router';
import { SWRConfig } from 'swr';
import type { Practice } from '@wunsch/contract';
import { DoorContext, openDoor, useDoor, type Door } from '../shell/door.tsx';
import { useLiveUpdates, useRefresh } from '../shell/live.ts';
import { useNow } from '../shell/now.ts';
import { Button } from '../ui/Button.tsx';
import { EmptyState } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';
import RoastPage from '../stations/roast/RoastPage.tsx';

/** A practice as it was begun, kept with the page's address so that a reload finds its clock again. */
export interface PracticeState extends Practice {
  /** Epoch ms on this device when its clock was told. */
  saidAt: number;
}

/** The door of a practice: its own routes, events, outbox and clock. */
function practiceDoor({ id, speed, now, saidAt }: PracticeState): Door {
  return openDoor({
    name: `practice-${id}`,
    address: (path) => `/practice/${id}${path}`,
    now: () => now + (Date.now() - saidAt) * speed,
    isPractice: true,
  });
}

/** A station's own page at work in a throw-away workshop. */
export default function PracticeRoom() {
  const { t } = useWords();
  const { practiceId } = useParams();
  const state = useLocation().state as PracticeState | null;
  const known = state?.id === practiceId ? state : null;
  const door = useMemo(() => (known ? practiceDoor(known) : null), [known]);
  if (!door || !known) return <EmptyState title={t('practice.ended')}>{t('practice.ended.text')}</EmptyState>;
  return (
    <>
      <PracticeLine practice={known} door={door} />
      <DoorContext value={door}>
        {/* What is read in here has the same addresses as outside, and must not be taken for it. */}
        <SWRConfig value={{ provider: () => new Map() }}>
          <Inside />
        </SWRConfig>
      </DoorContext>
    </>
  );
}

function Inside() {
  const { outbox } = useDoor();
  const { refresh, refreshAll } = useRefresh();
  useLiveUpdates(true);
  useEffect(() => {
    outbox.onSent = (accepted) => (accepted.touches.length > 0 ? refresh(accepted) : refreshAll());
  }, [outbox, refresh, refreshAll]);
  return <RoastPage />;
}

/** Says all the time that this is practice, how fast its clock goes, and ends it. */
function PracticeLine({ practice, door }: { practice: PracticeState; door: Door }) {
  const words = useWords();
  const { t } = words;
  const { request } = useDoor();
  const navigate = useNavigate();
  return (
    <DoorContext value={door}>
      <div
        role="status"
        className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b-4 border-double border-violet-text bg-violet-tint px-4 py-1"
      >
        <strong>{t('practice')}</strong>
        <span className="grow">
          {t('practice.line', { n: practice.speed })} <Clock />
        </span>
        <Button
          onClick={() =>
            void request('DELETE', `/api/practices/${practice.id}`).then(
              () => navigate('/practice'),
              () => navigate('/practice'),
            )
          }
        >
          {t('practice.end')}
        </Button>
      </div>
    </DoorContext>
  );
}

function Clock() {
  const words = useWords();
  return <span className="num">{words.time(new Date(useNow(500)).toISOString())}</span>;
}
