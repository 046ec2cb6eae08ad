import { Dialog as Radix } from 'radix-ui';
import { X } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { useWords } from '../words/words.tsx';
import { focusPage } from './focusPage.ts';
import { hasKeyboard } from './hasKeyboard.ts';

/** What is filled in, in the order it is asked. */
const FIELDS = ['input:not([type=hidden])', 'select', 'textarea']
  .map((field) => `form ${field}:enabled`)
  .join(', ');

/** What opened each dialog that is on the page, and what opened the one it was opened from: the nearest first. */
const openers = new WeakMap<Element, readonly Element[]>();

/** What has the focus now, and what would have it back where that is gone with the dialog it stands in. */
function openedBy(): readonly Element[] {
  const active = document.activeElement;
  if (!active || active === document.body) return [];
  const around = active.closest('[role="dialog"]');
  return [active, ...((around && openers.get(around)) ?? [])];
}

/**
 * A dialog with a title. What it asks first, or what is marked `data-first`, has the focus where there is a keyboard. It closes on Escape and gives
 * the focus back to what opened it, or to the page where that has gone meanwhile; where another dialog has taken its place, that one has the focus
 * and keeps it.
 */
export function Dialog({
  open,
  onClose,
  title,
  description,
  children,
  wide = false,
}: {
  open: boolean;
  onClose: () => void;
  title: string;
  description?: string;
  children: ReactNode;
  wide?: boolean;
}) {
  const { t } = useWords();
  // Noted while drawing, since a field that takes the focus at once has it before any effect runs.
  const [was, setWas] = useState<{ open: boolean; by: readonly Element[] }>({ open: false, by: [] });
  if (was.open !== open) setWas({ open, by: open ? openedBy() : was.by });
  const { by } = was;
  return (
    <Radix.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-black/45" />
        <Radix.Content
          className={`fixed inset-x-0 bottom-0 z-50 max-h-[94dvh] overflow-y-auto rounded-t-md border border-line bg-panel p-5 text-ink sm:inset-x-auto sm:bottom-auto sm:left-1/2 sm:top-1/2 sm:w-[calc(100vw-48px)] sm:-translate-x-1/2 sm:-translate-y-1/2 sm:rounded-md ${wide ? 'sm:max-w-3xl' : 'sm:max-w-md'}`}
          onOpenAutoFocus={(e) => {
            const content = e.currentTarget as HTMLElement;
            openers.set(content, by);
            const field = hasKeyboard() && content.querySelector<HTMLElement>(`[data-first], ${FIELDS}`);
            if (!field) return;
            e.preventDefault();
            field.focus();
          }}
          onCloseAutoFocus={(e) => {
            e.preventDefault();
            if (document.activeElement?.closest('[role="dialog"]')) return;
            const back = by.find((b) => b.isConnected);
            // The page stays where it is.
            if (back instanceof HTMLElement) back.focus({ preventScroll: true });
            else focusPage();
          }}
          {...(description ? {} : { 'aria-describedby': undefined })}
        >
          <div className="mb-3 flex items-start justify-between gap-4">
            <div>
              <Radix.Title className="text-[20px] leading-tight">{title}</Radix.Title>
              {description && (
                <Radix.Description className="mt-1 text-[13.5px] text-ink-2">{description}</Radix.Description>
              )}
            </div>
            <Radix.Close
              className="-mr-2 -mt-2 grid size-11 place-items-center rounded hover:bg-violet-tint"
              aria-label={t('close')}
            >
              <X size={20} aria-hidden="true" />
            </Radix.Close>
          </div>
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
