import { Toast } from 'radix-ui';
import { useCallback, useRef, useState, type ReactNode } from 'react';
import { NoticeContext, type Notice } from '../shell/entry.ts';
import { useWords } from '../words/words.tsx';

/** Lines at the foot of the screen that tell what was done and offer to undo it. */
export function Toaster({ children }: { children: ReactNode }) {
  const { t } = useWords();
  const [notices, setNotices] = useState<(Notice & { id: number })[]>([]);
  const next = useRef(1);
  const notify = useCallback((notice: Notice) => {
    const id = (next.current += 1);
    setNotices((all) => [...all.slice(-2), { ...notice, id }]);
  }, []);
  const remove = (id: number) => setNotices((all) => all.filter((n) => n.id !== id));
  // On a phone only the newest of what went well is shown: three of them hid the next button for seven seconds.
  const older = { done: 'max-sm:not-last:hidden', bad: '', waiting: '' };
  const edges = { done: 'border-l-ok', bad: 'border-l-bad', waiting: 'border-l-slate' };
  return (
    <NoticeContext value={notify}>
      <Toast.Provider label={t('notice')} duration={7000} swipeDirection="down">
        {children}
        {notices.map((n) => (
          <Toast.Root
            key={n.id}
            type={n.tone === 'bad' ? 'foreground' : 'background'}
            duration={n.tone === 'bad' ? 15_000 : 7000}
            onOpenChange={(open) => !open && remove(n.id)}
            className={`flex items-center gap-3 rounded border border-l-4 border-edge bg-panel px-4 py-2 text-[14px] text-ink ${edges[n.tone]} ${older[n.tone]}`}
          >
            <Toast.Description className="grow py-1">{n.text}</Toast.Description>
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
            <Toast.Close className="grid size-11 place-items-center text-ink-3" aria-label={t('close')}>
              ×
            </Toast.Close>
          </Toast.Root>
        ))}
        <Toast.Viewport className="no-print fixed bottom-3 left-3 z-50 flex w-[min(460px,calc(100vw-24px))] flex-col gap-2 outline-none" />
      </Toast.Provider>
    </NoticeContext>
  );
}
