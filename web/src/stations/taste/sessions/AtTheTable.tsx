import { QRCodeSVG } from 'qrcode.react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { TastingSession } from '@wunsch/contract';
import { useDoor } from '../../../shell/door.tsx';
import { newId } from '../../../shell/entry.ts';
import { useReachable } from '../../../shell/useReachable.ts';
import { useMayMake, useSession } from '../../../shell/session.tsx';
import { useEntryHere } from '../../../shell/useEntryHere.ts';
import { Button } from '../../../ui/Button.tsx';
import { Dialog } from '../../../ui/Dialog.tsx';
import { Panel } from '../../../ui/Panel.tsx';
import { useWords } from '../../../words/words.tsx';
import { KeyTable } from './KeyTable.tsx';
import { sessionPath } from './useSessions.ts';

const LINK = 'grid min-h-12 place-items-center rounded border px-5 text-[15px] font-semibold text-center';

/** A session while it tastes: who is where, how guests sit down, and what whoever holds it does next. */
export function AtTheTable({ session }: { session: TastingSession }) {
  const words = useWords();
  const { t } = words;
  const mayMake = useMayMake();
  const me = useSession().person;
  const mine = session.seats.find((s) => s.id === session.mySeatId);
  const tastes = mine && !session.iPour && me.role !== 'viewer';
  return (
    <div className="grid gap-2 lg:grid-cols-[1fr_340px]">
      <div className="grid content-start gap-2">
        <Progress session={session} />
        {session.balance && <Served balance={session.balance} />}
        {session.question === 'different' && (
          <Panel title={t('panel.served')}>
            <p className="text-[13.5px]">{t('panel.served.choice')}</p>
          </Panel>
        )}
        {session.iPour && (
          <Panel title={t('panel.key')}>
            <KeyTable sessionId={session.id} />
          </Panel>
        )}
      </div>
      <div className="grid content-start gap-2">
        {tastes && mine.done < mine.of && (
          <Link
            to={sessionPath(session.id, '/cards')}
            className={`${LINK} border-violet bg-violet text-white hover:bg-violet-2`}
          >
            {`${t('panel.taste')} (${t('panel.seat.done', { done: mine.done, of: mine.of })})`}
          </Link>
        )}
        {session.joinCode && session.seats.some((s) => s.personId === null) && <Join session={session} />}
        {mayMake && <Holding session={session} />}
      </div>
    </div>
  );
}

/** Who has finished which sample, seat by seat. */
function Progress({ session }: { session: TastingSession }) {
  const { t } = useWords();
  const mayMake = useMayMake();
  return (
    <Panel title={t('panel.progress')} aside={t('panel.cards.n', { n: session.cards })}>
      <ul>
        {session.seats.map((s, i) => (
          <li
            key={s.id}
            className="grid grid-cols-[minmax(96px,1fr)_minmax(80px,2fr)_64px] items-center gap-3 border-b border-line py-1.5 sm:min-h-14 sm:grid-cols-[minmax(96px,1fr)_minmax(80px,2fr)_64px_132px]"
          >
            <span className={s.joined ? 'font-semibold' : 'text-ink-3'}>
              {s.name || t('panel.seat.n', { n: i + 1 })}
              {!s.joined && <span className="block text-[12px] font-normal">{t('panel.seat.free')}</span>}
            </span>
            <span className="flex flex-wrap gap-1" aria-hidden="true">
              {Array.from({ length: s.of }, (_, k) => (
                <span
                  key={k}
                  className={`size-3 rounded-full border ${k < s.done ? 'border-violet-text bg-(--violet-text)' : 'border-edge'}`}
                />
              ))}
            </span>
            <span className="num text-right text-[13px]">
              {t('panel.seat.done', { done: s.done, of: s.of })}
            </span>
            {mayMake && s.id !== session.mySeatId && s.done < s.of && (
              <Link
                to={sessionPath(session.id, `/paper/${s.id}`)}
                className="col-span-3 inline-flex min-h-11 items-center justify-self-end text-[13px] font-semibold underline underline-offset-4 sm:col-span-1"
                aria-label={`${t('panel.paper')}: ${s.name || t('panel.seat.n', { n: i + 1 })}`}
              >
                {t('panel.paper')}
              </Link>
            )}
          </li>
        ))}
      </ul>
      {session.pourers.length > 0 && (
        <p className="mt-2 text-[13px] text-ink-3">
          {t('panel.poured', { who: session.pourers.join(', ') })}
        </p>
      )}
    </Panel>
  );
}

/** How evenly it is served, said plainly. */
function Served({ balance }: { balance: NonNullable<TastingSession['balance']> }) {
  const { t } = useWords();
  return (
    <Panel title={t('panel.served')}>
      <p className="text-[13.5px]">
        {balance.exact
          ? t('panel.served.exact')
          : t('panel.served.near', {
              a: balance.place.fewest,
              b: balance.place.most,
              c: balance.after.fewest,
              d: balance.after.most,
            })}
      </p>
    </Panel>
  );
}

/** The code guests type, and the same to point a camera at. */
function Join({ session }: { session: TastingSession }) {
  const { t } = useWords();
  const { base, isAlone } = useReachable();
  const url = `${base}/join/${session.joinCode}`;
  return (
    <Panel>
      <p className="num text-center text-[42px] font-semibold tracking-[0.08em]">{session.joinCode}</p>
      <p className="mb-3 text-center text-[13px] text-ink-2">
        {t('panel.join', { address: `${base.replace(/^https?:\/\//, '')}/join` })}
      </p>
      <div className="grid place-items-center gap-1">
        {/* A code is read dark on light, whatever the theme. */}
        <span className="rounded bg-white p-3">
          <QRCodeSVG value={url} size={148} title={url} />
        </span>
        <span className="text-[12.5px] text-ink-3">{t('panel.join.hint')}</span>
      </div>
      {isAlone && <p className="mt-3 text-[12.5px] text-ink-2">{t('panel.join.alone')}</p>}
    </Panel>
  );
}

/** What whoever holds the session does: pours, prints, opens. */
function Holding({ session }: { session: TastingSession }) {
  const { t, language } = useWords();
  const { address } = useDoor();
  const send = useEntryHere();
  const [asking, setAsking] = useState<'key' | 'open' | null>(null);
  const missing = session.seats.reduce((sum, s) => sum + s.of - s.done, 0);
  const act = (what: 'keys' | 'openings', label: string) =>
    void send({
      path: `/api/tasting-session-${what}/${newId()}`,
      body: { sessionId: session.id },
      label,
    }).then(
      () => setAsking(null),
      () => undefined,
    );
  return (
    <Panel>
      <div className="grid gap-2">
        <a
          href={address(`/api/tasting-sessions/${session.id}/cards.pdf?language=${language}`)}
          className={`${LINK} border-edge bg-panel hover:bg-panel-2`}
        >
          {t('panel.sheets')}
        </a>
        {session.iPour ? (
          <a
            href={address(`/api/tasting-sessions/${session.id}/run-sheet.pdf?language=${language}`)}
            className={`${LINK} border-edge bg-panel hover:bg-panel-2`}
          >
            {t('panel.run-sheet')}
          </a>
        ) : (
          <Button big onClick={() => setAsking('key')}>
            {t('panel.key.ask')}
          </Button>
        )}
        <Button big look={missing === 0 ? 'main' : 'plain'} onClick={() => setAsking('open')}>
          {t('panel.open')}
        </Button>
      </div>
      <Dialog
        open={asking === 'key'}
        onClose={() => setAsking(null)}
        title={t('panel.key.ask')}
        description={t('panel.key.text')}
      >
        <Button look="main" onClick={() => act('keys', t('done.panel.key'))}>
          {t('panel.key.ask')}
        </Button>
      </Dialog>
      <Dialog
        open={asking === 'open'}
        onClose={() => setAsking(null)}
        title={t('panel.open')}
        description={t('panel.open.text', { missing })}
      >
        <Button look="main" onClick={() => act('openings', t('done.panel.open', { title: session.title }))}>
          {t('panel.open')}
        </Button>
      </Dialog>
    </Panel>
  );
}
