import { useEffect, useState } from 'react';
import { SWRConfig } from 'swr';
import type { GuestView } from '@wunsch/contract';
import { ApiProblem } from '../../../shell/api.ts';
import { DoorContext, openDoor, useDoor, useRead } from '../../../shell/door.tsx';
import { newId } from '../../../shell/entry.ts';
import { Wordmark } from '../../../shell/glyphs.tsx';
import { useEntryHere } from '../../../shell/useEntryHere.ts';
import { Button } from '../../../ui/Button.tsx';
import { TextField } from '../../../ui/Field.tsx';
import { Panel } from '../../../ui/Panel.tsx';
import { useWords } from '../../../words/words.tsx';
import { NoteFamiliesContext } from '../useNoteList.ts';
import { Glasses } from './Glasses.tsx';
import { useWithWaiting } from './useWithWaiting.ts';

/** A guest’s own outbox, apart from that of whoever works on the same device. */
const guestDoor = openDoor({ name: 'wunsch-guest' });

const LAST = 'wunsch.guest';

/** What the phone showed last, so that a reload without a network still shows the glasses. */
function lastSeen(): GuestView | undefined {
  try {
    return (JSON.parse(localStorage.getItem(LAST) ?? 'null') as GuestView | null) ?? undefined;
  } catch {
    return undefined;
  }
}

function keep(view: GuestView | null): void {
  try {
    if (view) localStorage.setItem(LAST, JSON.stringify(view));
    else localStorage.removeItem(LAST);
  } catch {
    // A browser that keeps nothing still tastes.
  }
}

/** Taking a seat by the code on the screen. */
function Sit({ onSat }: { onSat: () => void }) {
  const { t, explain } = useWords();
  const { request } = useDoor();
  const [code, setCode] = useState(() => /^\/join\/([\w-]+)/.exec(location.pathname)?.[1] ?? '');
  const [name, setName] = useState('');
  const [wrong, setWrong] = useState<{ field: string | undefined; text: string } | null>(null);
  const sit = () =>
    void request('POST', '/api/guest', { code, name }).then(
      () => {
        setWrong(null);
        onSat();
      },
      (error: unknown) =>
        setWrong({
          field: error instanceof ApiProblem ? error.problem.field : undefined,
          text: explain(error),
        }),
    );
  return (
    <Panel title={t('panel.guest')}>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          sit();
        }}
      >
        <TextField
          label={t('panel.guest.code')}
          value={code}
          onChange={(e) => setCode(e.target.value)}
          maxLength={12}
          autoCapitalize="characters"
          error={wrong?.field === 'code' ? wrong.text : null}
          required
        />
        <TextField
          label={t('panel.guest.name')}
          value={name}
          onChange={(e) => setName(e.target.value)}
          maxLength={60}
          error={wrong?.field === 'name' ? wrong.text : null}
          hint={t('panel.guest.text')}
          required
        />
        {wrong && wrong.field !== 'code' && wrong.field !== 'name' && (
          <p role="alert" className="text-bad">
            {wrong.text}
          </p>
        )}
        <Button type="submit" look="main" big disabled={code.trim().length < 4 || name.trim() === ''}>
          {t('panel.guest.sit')}
        </Button>
      </form>
    </Panel>
  );
}

function Seat() {
  const { t } = useWords();
  const send = useEntryHere();
  const { data, error, mutate } = useRead<GuestView>('/api/guest', {
    refreshInterval: 10_000,
    fallbackData: lastSeen(),
    shouldRetryOnError: false,
    onSuccess: keep,
  });
  const { outbox } = useDoor();
  useEffect(() => {
    outbox.onSent = () => mutate();
  }, [outbox, mutate]);
  const problem = error instanceof ApiProblem ? error.problem : null;
  const isOver = problem?.code === 'session-over';
  const isNobody = problem !== null && !isOver;
  useEffect(() => {
    if (problem) keep(null);
  }, [problem]);
  const isChoice = data?.question === 'different';
  const { glasses, waiting } = useWithWaiting(data?.glasses, {
    seatId: data?.seatId,
    isChoice,
    remember: (tasted) => {
      // From what is known by now: two cards accepted at once are both remembered.
      const marked = (known: GuestView | undefined = data) =>
        known && { ...known, glasses: known.glasses.map(tasted) };
      void mutate(marked, { revalidate: false }).then((known) => known && keep(known));
    },
  });
  if (isOver)
    return (
      <Panel title={t('panel.guest.over')}>
        <Sit onSat={() => void mutate()} />
      </Panel>
    );
  if (isNobody || (!data && error)) return <Sit onSat={() => void mutate()} />;
  if (!data || !glasses) return <p className="text-ink-3">{t('loading')}</p>;
  return (
    <>
      <p className="text-[13.5px] text-ink-2">{t('panel.guest.hello', { name: data.name })}</p>
      <h1 className="mb-1 text-[23px]">{data.title}</h1>
      {/* Its line is always there: a row of marks must not move under the finger as a card goes out. */}
      <p role="status" className="min-h-10 text-[13px] leading-5 text-ink-2">
        {waiting > 0 && t('panel.guest.waits', { n: waiting })}
      </p>
      <NoteFamiliesContext value={data.families}>
        <Glasses
          seatId={data.seatId}
          session={data}
          glasses={glasses}
          save={(glass, card) =>
            send({
              path: `/api/guest/cards/${newId()}`,
              body: { round: glass.round, place: isChoice ? 1 : glass.place, card },
              label: t('panel.card.saved', { code: card.form === 'choice' ? card.code : glass.code }),
              quiet: true,
            })
          }
        />
      </NoteFamiliesContext>
    </>
  );
}

/** What a guest’s phone shows: a seat to take, and the glasses of that seat. No account, and nothing else of the workshop. */
export default function GuestPage() {
  useEffect(() => void guestDoor.outbox.start(), []);
  return (
    <DoorContext value={guestDoor}>
      <SWRConfig value={{ provider: () => new Map() }}>
        <main id="main" tabIndex={-1} className="mx-auto grid max-w-2xl gap-2 p-3 sm:p-4">
          <p className="mb-1">
            <Wordmark size={26} />
          </p>
          <Seat />
        </main>
      </SWRConfig>
    </DoorContext>
  );
}
