import { Toast } from 'radix-ui';
import { useCallback, useRef, useState, type ReactNode } from 'react';
import { createPortal } from 'react-dom';
import { NoticeContext, NoticePlaceContext, type Notice } from '../shell/entry.ts';
import { useWords } from '../words/words.tsx';

interface Shown extends Notice {
  id: number;
  /** How often it was said in a row. */
  times: number;
}

/** How long what went well stays, and what did not, ms. */
const STAYS = { done: 7000, waiting: 7000, bad: 15_000 } as const;

/** Most notices at once; what went well gives way first. */
const MOST = 2;

/**
 * Tells what was done and offers to undo it, in a place of the layout that the shell keeps for it: nothing is ever covered. The same
 * thing said again is one line with a count.
 */
export function Toaster({ children }: { children: ReactNode }) {
  const { t } = useWords();
  const [notices, setNotices] = useState<Shown[]>([]);
  const [place, setPlace] = useState<HTMLElement | null>(null);
  const next = useRef(1);
  const notify = useCallback((notice: Notice) => {
    const id = (next.current += 1);
    setNotices((all) => {
      const last = all.at(-1);
      const again = last && last.text === notice.text && last.tone === notice.tone;
      const before = again ? all.slice(0, -1) : all;
      const kept = [...before, { ...notice, id, times: again ? last.times + 1 : 1 }];
      const bad = kept.filter((n) => n.tone === 'bad').slice(-MOST);
      const rest = kept.filter((n) => n.tone !== 'bad').slice(-1);
      return kept.filter((n) => bad.includes(n) || rest.includes(n));
    });
  }, []);
  const remove = (id: number) => setNotices((all) => all.filter((n) => n.id !== id));
  const edges = { done: 'border-l-ok', bad: 'border-l-bad', waiting: 'border-l-slate' };
  return (
    <NoticeContext value={notify}>
      <NoticePlaceContext value={setPlace}>
        <Toast.Provider label={t('notice')} swipeDirection="up">
          {children}
          {notices.map((n) => (
            <Toast.Root
              key={n.id}
              type={n.tone === 'bad' ? 'foreground' : 'background'}
              duration={STAYS[n.tone]}
              onOpenChange={(open) => !open && remove(n.id)}
              className={`flex items-center gap-2 border-l-4 pl-3 pr-1 text-[14px] text-ink ${edges[n.tone]}`}
            >
              <Toast.Description className="min-w-0 grow py-1 [overflow-wrap:anywhere] hyphens-auto">
                {n.text}
                {n.times > 1 && <span className="text-ink-3"> {t('notice.times', { n: n.times })}</span>}
              </Toast.Description>
              {n.action && (
                <Toast.Action altText={n.action.label} asChild>
                  <button
                    type="button"
                    className="min-h-11 rounded border border-edge px-3 font-semibold hover:bg-violet-tint"
                    onClick={() => {
                      n.action!.run();
                      remove(n.id);
                    }}
                  >
                    {n.action.label}
                  </button>
                </Toast.Action>
              )}
              <Toast.Close
                className="grid size-11 shrink-0 place-items-center text-ink-3"
                aria-label={t('close')}
              >
                ×
              </Toast.Close>
            </Toast.Root>
          ))}
          <NoticeViewport place={place} />
        </Toast.Provider>
      </NoticePlaceContext>
    </NoticeContext>
  );
}

/** Where notices stand: in the place the shell keeps, or at the foot of a page without one. */
function NoticeViewport({ place }: { place: HTMLElement | null }) {
  const list = 'no-print m-0 flex list-none flex-col p-0 outline-none';
  const { t } = useWords();
  if (!place)
    return (
      <Toast.Viewport label={t('notice')} className={`${list} border-line bg-panel has-[li]:border-t`} />
    );
  return createPortal(
    <Toast.Viewport label={t('notice')} className={`${list} divide-y divide-line`} />,
    place,
  );
}
