import { Moon, Search, Sun, PanelRight } from 'lucide-react';
import { lazy, Suspense, useContext, useEffect, useState, useSyncExternalStore } from 'react';
import { NavLink, Outlet, useLocation, useNavigate } from 'react-router';
import { useSWRConfig } from 'swr';
import { STATIONS } from '@wunsch/core/ledger';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { Menu } from '../ui/Menu.tsx';
import { useWords, type Language } from '../words/words.tsx';
import { newId, NoticeContext } from './entry.ts';
import { takeInHand, useInHand } from './inhand.ts';
import { Line } from './Line.tsx';
import { useDoor } from './door.tsx';
import { useLiveUpdates, useRefresh } from './live.ts';
import { useBench, useMayMake, useSession } from './session.tsx';
import { NoticeStrip } from './NoticeStrip.tsx';
import { Slip } from './Slip.tsx';
import { setTheme, useTheme } from './theme.ts';
import { RoastWatch } from './RoastWatch.tsx';
import { TimerDialog, TimerRing } from './Timers.tsx';
import { useEntryHere } from './useEntryHere.ts';
import type { TrailItem } from '@wunsch/contract';

const Find = lazy(() => import('./Find.tsx'));

/** Everything around a page: the line, the slip, keys, find, live updates, the outbox and timers. */
export function Shell({ onLanguage }: { onLanguage: (language: Language) => void }) {
  const words = useWords();
  const { t } = words;
  const { data: bench } = useBench();
  const { person } = useSession();
  const theme = useTheme();
  const [finding, setFinding] = useState(false);
  const [slipOpen, setSlipOpen] = useState(false);
  const [keysOpen, setKeysOpen] = useState(false);
  const [timerOpen, setTimerOpen] = useState(false);
  const location = useLocation();
  const navigate = useNavigate();
  const inHand = useInHand();
  useLiveUpdates(true);
  const { outbox, request } = useDoor();
  const { mutate } = useSWRConfig();
  const { refresh, refreshAll } = useRefresh();
  useEffect(() => {
    outbox.onSent = (accepted) => (accepted.touches.length > 0 ? refresh(accepted) : refreshAll());
  }, [outbox, refresh, refreshAll]);
  useEffect(() => {
    if (inHand) takeInHand(inHand);
  }, [inHand]);
  useEffect(() => setSlipOpen(false), [location.pathname]);
  const wide = useWide();
  const undoLast = useUndoLast();
  useKeys({
    find: () => setFinding(true),
    keys: () => setKeysOpen(true),
    undo: undoLast,
    timer: () => setTimerOpen(true),
    go: navigate,
    inHand,
  });
  const signOut = async () => {
    await request('DELETE', '/api/session');
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
        onClick={() => setFinding(true)}
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
          {
            label: words.language === 'de' ? 'English' : 'Deutsch',
            run: () => onLanguage(words.language === 'de' ? 'en' : 'de'),
          },
          {
            label: theme === 'dark' ? t('theme.light') : t('theme.dark'),
            run: () => setTheme(theme === 'dark' ? 'light' : 'dark'),
          },
          { label: t('timer.set'), run: () => setTimerOpen(true) },
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
      <Line bench={bench}>{utilities}</Line>
      <OutboxBar />
      {!wide && <NoticeStrip onUndo={undoLast} />}
      <div
        className="xl:grid"
        style={{ gridTemplateColumns: 'calc(148px + 9 * var(--col)) minmax(292px, 1fr)' }}
      >
        <main id="main" tabIndex={-1} className="min-w-0 pb-24 outline-none print:pb-0">
          <Suspense fallback={<p className="p-6 text-ink-3">{t('loading')}</p>}>
            <Outlet />
          </Suspense>
        </main>
        <aside
          aria-label={t('slip')}
          className="no-print sticky top-[72px] mx-2 hidden h-[calc(100dvh-80px)] overflow-y-auto overflow-x-hidden rounded-b-md border border-t-0 border-line-2 bg-panel xl:block"
        >
          {wide && <NoticeStrip onUndo={undoLast} className="sticky top-0 z-10" />}
          <Slip />
        </aside>
      </div>
      {slipOpen && (
        <Dialog open onClose={() => setSlipOpen(false)} title={t('slip')}>
          <Slip />
        </Dialog>
      )}
      {finding && (
        <Suspense fallback={null}>
          <Find onClose={() => setFinding(false)} />
        </Suspense>
      )}
      {keysOpen && <KeysDialog onClose={() => setKeysOpen(false)} />}
      {timerOpen && <TimerDialog onClose={() => setTimerOpen(false)} />}
      <TimerRing bench={bench} />
      <RoastWatch bench={bench} />
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

function useKeys({
  find,
  keys,
  undo,
  timer,
  go,
  inHand,
}: {
  find: () => void;
  keys: () => void;
  undo: () => void;
  timer: () => void;
  go: (path: string) => void;
  inHand: string | null;
}): void {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        target.closest('input, textarea, select, [role="dialog"], [contenteditable]')
      )
        return;
      const act = (run: () => void) => {
        event.preventDefault();
        run();
      };
      const station = STATIONS[Number(event.key) - 1];
      if (station) act(() => go(`/${station}`));
      else if (event.key === '0') act(() => go('/'));
      else if (event.key === '/') act(find);
      else if (event.key === '?') act(keys);
      else if (event.key === 'u') act(undo);
      else if (event.key === 't') act(timer);
      else if (event.key === 'n') act(() => document.getElementById('slip-note')?.focus());
      else if (['w', 'r', 'm'].includes(event.key)) {
        const button = document.querySelector<HTMLElement>(`main [data-key="${event.key}"]`);
        if (button) act(() => button.click());
        else if (inHand && event.key === 'w')
          act(() => document.querySelector<HTMLElement>('aside a, aside button')?.focus());
      }
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  });
}

function OutboxBar() {
  const { t, explain } = useWords();
  const { outbox } = useDoor();
  const waiting = useSyncExternalStore(outbox.subscribe, outbox.waiting);
  const refused = useSyncExternalStore(outbox.subscribe, outbox.refused);
  const [slow, setSlow] = useState(false);
  useEffect(() => {
    if (waiting.length === 0) {
      setSlow(false);
      return;
    }
    const timer = setTimeout(() => setSlow(true), 700);
    return () => clearTimeout(timer);
  }, [waiting.length]);
  void explain;
  if (refused.length === 0 && !(slow && waiting.length > 0)) return null;
  return (
    <div className="no-print border-b border-line-2 bg-panel px-4 py-2 text-[13px]" role="status">
      {slow && waiting.length > 0 && (
        <p>
          <strong>{t('outbox.title', { n: waiting.length })}</strong>{' '}
          {waiting.map((e) => e.label).join(' · ')}
        </p>
      )}
      {refused.map((e) => (
        <p key={e.id} className="flex flex-wrap items-center gap-2 text-bad">
          <strong>{t('outbox.refused', { label: e.label })}</strong> {e.reason}
          <Button look="quiet" onClick={() => void outbox.forget(e.id)}>
            {t('outbox.read')}
          </Button>
        </p>
      ))}
    </div>
  );
}

function KeysDialog({ onClose }: { onClose: () => void }) {
  const { t } = useWords();
  const keys: [string, string][] = [
    ['1–9', t('keys.stations')],
    ['0', t('bench')],
    ['/', t('find')],
    ['w', t('keys.weigh')],
    ['r', t('keys.reading')],
    ['m', t('keys.event')],
    ['n', t('keys.note')],
    ['t', t('timer.set')],
    ['u', t('keys.undo')],
    ['?', t('keys')],
  ];
  return (
    <Dialog open onClose={onClose} title={t('keys')}>
      <dl className="grid grid-cols-[64px_1fr] gap-y-2">
        {keys.map(([key, what]) => (
          <div key={key} className="contents">
            <dt>
              <kbd className="rounded border border-edge px-2 py-0.5 font-semibold">{key}</kbd>
            </dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </Dialog>
  );
}
