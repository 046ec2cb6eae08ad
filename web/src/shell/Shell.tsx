import { Moon, Search, Sun, PanelRight } from 'lucide-react';
import { Suspense, useContext, useEffect, useState, useSyncExternalStore } from 'react';
import { NavLink, Outlet, useLocation, useNavigate, useNavigationType } from 'react-router';
import { useSWRConfig } from 'swr';
import { fetchParts, later } from '../ui/later.tsx';
import { LatestBell } from '../plan/LatestBell.tsx';
import { Menu } from '../ui/Menu.tsx';
import { RoomWords, useWords, type Language } from '../words/words.tsx';
import { newId, NoticeContext } from './entry.ts';
import { takeInHand, useInHand } from './inhand.ts';
import { Line } from './Line.tsx';
import { OutboxBar } from './OutboxBar.tsx';
import { useFocusKept } from './useFocusKept.ts';
import { useHead } from './useHead.ts';
import { thingOf } from './codes.ts';
import { useKeys } from './useKeys.ts';
import { useDoor } from './door.tsx';
import { useLiveUpdates, useRefresh } from './live.ts';
import { useBench, useMayMake, useSession } from './session.tsx';
import { ReleaseBar } from './ReleaseBar.tsx';
import { NoticeStrip } from './NoticeStrip.tsx';
import { Slip } from './Slip.tsx';
import { setTheme, useTheme } from './theme.ts';
import { RoastWatch } from './RoastWatch.tsx';
import { TimerRing } from './Timers.tsx';
import { useEntryHere } from './useEntryHere.ts';
import type { TrailItem } from '@wunsch/contract';

const Find = later(() => import('../find/Find.tsx').then((m) => m.default));
const KeysDialog = later(() => import('./KeysDialog.tsx').then((m) => m.KeysDialog));
const TimerDialog = later(() => import('./TimerDialog.tsx').then((m) => m.TimerDialog));
const SlipDrawer = later(() => import('./SlipDrawer.tsx').then((m) => m.SlipDrawer));

/** Everything around a page: the line, the slip, keys, find, live updates, the outbox and timers. */
export function Shell({ onLanguage }: { onLanguage: (language: Language) => void }) {
  const words = useWords();
  const { t } = words;
  const { data: bench } = useBench();
  const { person } = useSession();
  const theme = useTheme();
  const [finding, setFinding] = useState<{ text: string } | null>(null);
  const [slipOpen, setSlipOpen] = useState(false);
  const [keysOpen, setKeysOpen] = useState(false);
  const mayMake = useMayMake();
  const [timerOpen, setTimerOpen] = useState(false);
  const location = useLocation();
  const isBench = location.pathname === '/';
  const navigate = useNavigate();
  const inHand = useInHand();
  useLiveUpdates(true);
  const stands = bench !== undefined;
  useEffect(() => {
    if (stands) fetchParts();
  }, [stands]);
  const { outbox, request, read } = useDoor();
  useEffect(() => outbox.isHere(person.id), [outbox, person.id]);
  const { mutate } = useSWRConfig();
  const { refresh, refreshAll } = useRefresh();
  useEffect(() => {
    outbox.onSent = (accepted) => (accepted.touches.length > 0 ? refresh(accepted) : refreshAll());
  }, [outbox, refresh, refreshAll]);
  useEffect(() => {
    if (inHand) takeInHand(inHand);
  }, [inHand]);
  useEffect(() => setSlipOpen(false), [location.pathname]);
  // A page one goes to begins at its top; going back, the browser knows where one was.
  const how = useNavigationType();
  useEffect(() => {
    if (how === 'PUSH') document.documentElement.scrollTop = 0;
    // Only where the page changes, not where something in its address does.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [location.pathname]);
  useFocusKept();
  const wide = useWide();
  const head = useHead();
  const undoLast = useUndoLast();
  const notify = useContext(NoticeContext);
  useKeys({
    find: () => setFinding({ text: '' }),
    keys: () => setKeysOpen(true),
    undo: undoLast,
    timer: () => mayMake && setTimerOpen(true),
    go: navigate,
    scanned: (text) =>
      void thingOf(text, read).then((thing) => (thing ? navigate(thing.path) : setFinding({ text }))),
  });
  const signOut = async () => {
    try {
      await request('DELETE', '/api/session');
    } catch (error) {
      // Whoever believes to be signed out and is not leaves the door open.
      return notify({ text: words.explain(error), tone: 'bad' });
    }
    // What was last read is kept for when the server is away; whoever comes next must not read it.
    if ('caches' in window) await caches.delete('last-read');
    await mutate('/api/session');
  };
  const utilities = (
    <>
      <NavLink
        to="/plan"
        className={({ isActive }) =>
          `hidden min-h-11 items-center px-2 text-[14px] font-semibold sm:flex ${isActive ? 'underline decoration-2 underline-offset-4' : ''}`
        }
      >
        {t('plan')}
      </NavLink>
      <NavLink
        to="/ledger"
        className={({ isActive }) =>
          `hidden min-h-11 items-center px-2 text-[14px] font-semibold sm:flex ${isActive ? 'underline decoration-2 underline-offset-4' : ''}`
        }
      >
        {t('ledger')}
      </NavLink>
      <button
        type="button"
        aria-label={t('find')}
        aria-keyshortcuts="/"
        onClick={() => setFinding({ text: '' })}
        className="mx-1 grid size-11 place-items-center rounded border border-edge hover:bg-panel-2"
      >
        <Search size={18} aria-hidden="true" />
      </button>
      <button
        type="button"
        aria-label={theme === 'dark' ? t('theme.light') : t('theme.dark')}
        onClick={() => setTheme(theme === 'dark' ? 'light' : 'dark')}
        className="mx-1 hidden size-11 place-items-center rounded border border-edge hover:bg-panel-2 sm:grid"
      >
        {theme === 'dark' ? <Sun size={18} aria-hidden="true" /> : <Moon size={18} aria-hidden="true" />}
      </button>
      <button
        type="button"
        aria-label={t('slip')}
        onClick={() => setSlipOpen(true)}
        className="mx-1 grid size-11 place-items-center rounded border border-edge hover:bg-panel-2 xl:hidden"
      >
        <PanelRight size={18} aria-hidden="true" />
      </button>
      <Menu
        label={t('me', { name: person.name })}
        trigger={
          <button
            type="button"
            className="mx-1 grid size-11 place-items-center rounded bg-violet font-semibold text-white"
          >
            {person.initials}
          </button>
        }
        items={[
          { label: t('plan'), run: () => navigate('/plan') },
          { label: t('ledger'), run: () => navigate('/ledger') },
          { label: t('settings'), run: () => navigate('/settings') },
          { label: t('runs.mine'), run: () => navigate('/people/me') },
          { label: t('practice'), run: () => navigate('/practice') },
          {
            label: words.language === 'de' ? 'English' : 'Deutsch',
            run: () => onLanguage(words.language === 'de' ? 'en' : 'de'),
          },
          {
            label: theme === 'dark' ? t('theme.light') : t('theme.dark'),
            run: () => setTheme(theme === 'dark' ? 'light' : 'dark'),
          },
          ...(mayMake ? [{ label: t('timer.set'), run: () => setTimerOpen(true) }] : []),
          { label: t('keys'), run: () => setKeysOpen(true) },
          { label: t('sign-out'), run: () => void signOut() },
        ]}
      />
    </>
  );
  return (
    <>
      <a
        href="#main"
        className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-panel focus:p-3"
      >
        {t('skip')}
      </a>
      <div ref={head} className="no-print sticky top-0 z-30">
        <Line bench={bench}>{utilities}</Line>
        <TimerRing bench={bench} />
        <LatestBell />
        <RoastWatch bench={bench} />
      </div>
      <OutboxBar />
      <ReleaseBar />
      {!wide && <NoticeStrip onUndo={undoLast} />}
      <div
        className="xl:grid"
        style={{ gridTemplateColumns: 'calc(148px + 9 * var(--col)) minmax(292px, 1fr)' }}
      >
        <main id="main" tabIndex={-1} className="min-w-0 pb-24 outline-none print:pb-0">
          <Suspense fallback={<p className="p-6 text-ink-3">{t('loading')}</p>}>
            {isBench ? (
              <Outlet />
            ) : (
              <RoomWords>
                <Outlet />
              </RoomWords>
            )}
          </Suspense>
        </main>
        <aside
          aria-label={t('slip')}
          className="no-print sticky top-(--head) mx-2 hidden h-[calc(100dvh-var(--head)-8px)] overflow-y-auto overflow-x-hidden rounded-b-md border border-t-0 border-line-2 bg-panel xl:block"
        >
          {wide && <NoticeStrip onUndo={undoLast} className="sticky top-0 z-10" />}
          <div id="beside" />
          <div className="beside-else">
            <Slip />
          </div>
        </aside>
      </div>
      {slipOpen && <SlipDrawer onClose={() => setSlipOpen(false)} />}
      {finding && <Find given={finding.text} onClose={() => setFinding(null)} />}
      {keysOpen && <KeysDialog onClose={() => setKeysOpen(false)} />}
      {timerOpen && <TimerDialog onClose={() => setTimerOpen(false)} />}
    </>
  );
}

/** Whether the page is wide enough for the slip at its side. */
function useWide(): boolean {
  return useSyncExternalStore(
    (changed) => {
      const query = window.matchMedia(WIDE);
      query.addEventListener('change', changed);
      return () => query.removeEventListener('change', changed);
    },
    () => window.matchMedia(WIDE).matches,
  );
}

const WIDE = '(min-width: 1280px)';

/** Takes back this person's last entry. */
function useUndoLast(): () => void {
  const { t, explain } = useWords();
  const send = useEntryHere();
  const notify = useContext(NoticeContext);
  const mayMake = useMayMake();
  const { read } = useDoor();
  return () => {
    if (!mayMake) return;
    void (async () => {
      try {
        const [last] = await read<TrailItem[]>('/api/trail?mine=true&limit=1');
        if (!last) return notify({ text: t('undo.nothing'), tone: 'waiting' });
        await send({
          path: `/api/undos/${newId()}`,
          body: { seq: last.seq },
          label: t('undone'),
          batchId: last.batchId,
        });
      } catch (error) {
        notify({ text: explain(error), tone: 'bad' });
      }
    })();
  };
}
