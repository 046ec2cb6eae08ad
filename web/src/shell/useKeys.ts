import { useEffect } from 'react';
import { STATIONS } from '@wunsch/core/ledger';

/** The keys that work on every page, outside fields and dialogs. */
export function useKeys({
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
