import { useEffect, useMemo, useRef, useState, type RefObject } from 'react';
import { useNavigate, useParams } from 'react-router';
import { SWRConfig } from 'swr';
import type { LessonName, Practice, PracticeHand, PracticeHeard, PracticeScore } from '@wunsch/contract';
import { DoorContext, openDoor, useDoor, useRead, type Door } from '../shell/door.tsx';
import { useLiveUpdates, useRefresh } from '../shell/live.ts';
import { useNow } from '../shell/now.ts';
import { Button } from '../ui/Button.tsx';
import { EmptyState } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';
import GrindPage from '../stations/grind/GrindPage.tsx';
import RoastPage from '../stations/roast/RoastPage.tsx';
import TemperPage from '../stations/temper/TemperPage.tsx';
import WinnowPage from '../stations/winnow/WinnowPage.tsx';
import { BowlHands } from './BowlHands.tsx';
import { MillHands } from './MillHands.tsx';
import { ScoreSheet } from './ScoreSheet.tsx';
import { TelephoneCall } from './TelephoneCall.tsx';
import { WinnowHands } from './WinnowHands.tsx';

const PAGES = {
  roast: RoastPage,
  winnow: WinnowPage,
  grind: GrindPage,
  temper: TemperPage,
} as const satisfies Record<LessonName, unknown>;

/** How often it is asked whether the learner has ended the step, ms. */
const ASK_EVERY = 2500;

/** How often a practice in which something happens is asked about, ms. */
const LISTEN_EVERY = 800;

/** A practice’s clock as this device last heard of it. */
interface Heard {
  speed: number;
  now: number;
  /** Epoch ms on this device when it was heard. */
  at: number;
}

/** The door of a practice: its own routes, events, outbox and clock. */
function practiceDoor(id: string, clock: RefObject<Heard>): Door {
  return openDoor({
    name: `practice-${id}`,
    address: (path) => `/practice/${id}${path}`,
    now: () => clock.current.now + (Date.now() - clock.current.at) * clock.current.speed,
    isPractice: true,
  });
}

/** A station's own page at work in a throw-away workshop, and what it came to. */
export default function PracticeRoom() {
  const { t } = useWords();
  const { practiceId = '' } = useParams();
  const {
    data: practice,
    error,
    mutate,
  } = useRead<Practice>(`/api/practices/${practiceId}`, {
    refreshInterval: (known) => (known && known.level > 2 && known.speed > 0 ? LISTEN_EVERY : 0),
    revalidateOnFocus: false,
    shouldRetryOnError: false,
  });
  if (error) return <EmptyState title={t('practice.ended')}>{t('practice.ended.text')}</EmptyState>;
  if (!practice) return <p className="p-4 text-ink-3">{t('loading')}</p>;
  return (
    <Room
      key={practice.id}
      practice={practice}
      onHeard={(heard) => void mutate(heard, { revalidate: false })}
    />
  );
}

function Room({ practice, onHeard }: { practice: Practice; onHeard: (heard: Practice) => void }) {
  const { request } = useDoor();
  const [speed, setSpeed] = useState(practice.speed);
  const [heardAt] = useState(() => Date.now());
  const clock = useRef<Heard>({ speed: practice.speed, now: practice.now, at: heardAt });
  const door = useMemo(() => practiceDoor(practice.id, clock), [practice.id]);
  const here = `/api/practices/${practice.id}`;
  const { data: score, mutate } = useRead<PracticeScore>(`${here}/score`, {
    refreshInterval: (known) => (known?.finished ? 0 : ASK_EVERY),
    revalidateOnFocus: false,
  });
  const [watching, setWatching] = useState(false);
  const finished = score?.finished ?? false;
  const hear = (said: Practice) => {
    clock.current = { speed: said.speed, now: said.now, at: Date.now() };
    setSpeed(said.speed);
    onHeard(said);
  };
  const go = (to: number) =>
    void request<Practice>('POST', `${here}/clock`, { speed: to }).then(hear, () => undefined);
  const hand = (what: PracticeHand) =>
    request<PracticeHeard>('POST', `${here}/hands`, what).then(({ said: _, ...heard }) => hear(heard));
  const isTalking = practice.telephone === 'talking';
  const Page = PAGES[practice.lesson];
  return (
    <>
      <DoorContext value={door}>
        <PracticeLine
          practice={practice}
          speed={speed}
          onSpeed={finished ? null : go}
          onJudge={() => void mutate().then(() => setWatching(!watching))}
          isJudged={watching}
        />
      </DoorContext>
      {!finished && <TelephoneCall state={practice.telephone} onHand={hand} />}
      {!finished && practice.lesson === 'temper' && (
        <BowlHands
          place={practice.place ?? 'bench'}
          onPut={(place) => hand({ act: 'put', place })}
          isHeld={speed === 0 || isTalking}
        />
      )}
      {!finished && practice.lesson === 'winnow' && <WinnowHands seen={practice.seen} onHand={hand} />}
      {!finished && practice.lesson === 'grind' && <MillHands seen={practice.seen} onHand={hand} />}
      {score && (finished || watching) && <ScoreSheet score={score} />}
      {!finished && (
        <DoorContext value={door}>
          {/* What is read in here has the same addresses as outside, and must not be taken for it. */}
          <SWRConfig value={{ provider: () => new Map() }}>
            <Inside isUnprobed={practice.lesson === 'grind'}>
              {/* Whoever talks has no hand for the screen either. */}
              <div inert={isTalking} className={isTalking ? 'opacity-45' : ''}>
                <Page />
              </div>
            </Inside>
          </SWRConfig>
        </DoorContext>
      )}
    </>
  );
}

function Inside({ isUnprobed, children }: { isUnprobed: boolean; children: React.ReactNode }) {
  const { outbox } = useDoor();
  const { refresh, refreshAll } = useRefresh();
  useLiveUpdates(true);
  useEffect(() => {
    outbox.onSent = (accepted) => (accepted.touches.length > 0 ? refresh(accepted) : refreshAll());
  }, [outbox, refresh, refreshAll]);
  // No probe tells of the hours that go by: they are asked for.
  useEffect(() => {
    if (!isUnprobed) return;
    const timer = setInterval(() => void refreshAll(), ASK_EVERY);
    return () => clearInterval(timer);
  }, [isUnprobed, refreshAll]);
  return children;
}

/** Says all the time that this is practice and how fast its clock goes; holds it, judges it and ends it. */
function PracticeLine({
  practice,
  speed,
  onSpeed,
  onJudge,
  isJudged,
}: {
  practice: Practice;
  speed: number;
  /** Lets the clock go at another speed; null once the step has ended. */
  onSpeed: ((speed: number) => void) | null;
  onJudge: () => void;
  isJudged: boolean;
}) {
  const words = useWords();
  const { t } = words;
  const navigate = useNavigate();
  const end = () =>
    void fetch(`/api/practices/${practice.id}`, { method: 'DELETE', credentials: 'same-origin' }).then(
      () => navigate('/practice'),
      () => navigate('/practice'),
    );
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b-4 border-double border-violet-text bg-violet-tint px-4 py-1">
      <strong>{t(`practice.${practice.lesson}`)}</strong>
      <span role="status" className="grow">
        {onSpeed === null
          ? t('practice.over')
          : speed === 0
            ? t('practice.held')
            : t('practice.line', { n: speed })}{' '}
        {onSpeed !== null && <Clock />}
      </span>
      {onSpeed !== null && (
        <>
          <Button onClick={() => onSpeed(speed === 0 ? practice.usualSpeed : 0)}>
            {t(speed === 0 ? 'practice.go-on' : 'practice.hold')}
          </Button>
          <Button onClick={onJudge}>{t(isJudged ? 'practice.hide' : 'practice.judge')}</Button>
        </>
      )}
      <Button onClick={end}>{t('practice.end')}</Button>
    </div>
  );
}

function Clock() {
  const words = useWords();
  return <span className="num">{words.time(new Date(useNow(500)).toISOString())}</span>;
}
