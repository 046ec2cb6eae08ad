import { useEffect, useRef } from 'react';
import { STATIONS } from '@wunsch/core/ledger';
import { focusPage } from '../ui/focusPage.ts';
import { KeyBurst } from './burst.ts';

/** Keys that press the button of a page which names them. */
const PAGE_KEYS = ['w', 'r', 'm'];

/** What the keys of every page do. */
interface KeyActions {
  find: () => void;
  keys: () => void;
  undo: () => void;
  timer: () => void;
  go: (path: string) => void;
  /** A scanner that types has read a code. */
  scanned: (text: string) => void;
}

/** What a key does here; null for keys that do nothing. */
function actionOf(key: string, { find, keys, undo, timer, go }: KeyActions): (() => void) | null {
  const station = STATIONS[Number(key) - 1];
  if (station) return () => go(`/${station}`);
  if (key === '0') return () => go('/');
  if (key === '/') return find;
  if (key === '?') return keys;
  if (key === 'u') return undo;
  if (key === 't') return timer;
  if (key === 'n') return () => document.getElementById('slip-note')?.focus();
  if (!PAGE_KEYS.includes(key)) return null;
  const named = (where: 'main' | 'aside', by: 'data-key' | 'data-key-else') =>
    document.querySelector<HTMLButtonElement>(`${where} [${by}="${key}"]`);
  // What is usually meant next; else what may be meant as well; else what the slip has for the batch in hand.
  const button =
    named('main', 'data-key') ?? named('main', 'data-key-else') ?? named('aside', 'data-key-else');
  return button && (() => press(button));
}

/** What a button does; where it only keeps what a form holds, the form's field comes first. */
function press(button: HTMLButtonElement): void {
  const field = button.form?.querySelector<HTMLElement>(
    'input:enabled:not([type=radio], [type=checkbox]), select:enabled, textarea:enabled',
  );
  if (field) field.focus();
  else button.click();
}

/** The keys that work on every page, outside fields and dialogs; a scanner that types is told from a hand. */
export function useKeys(actions: KeyActions): void {
  const now = useRef(actions);
  useEffect(() => {
    now.current = actions;
  });
  useEffect(() => {
    const burst = new KeyBurst({
      code: (text) => now.current.scanned(text),
      key: (key) => actionOf(key, now.current)?.(),
    });
    const press = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (event.key === 'Escape' && target.closest('main input, main textarea, aside input')) {
        // Out of a field, so that the keys mean what they say again.
        if (!event.defaultPrevented && !document.querySelector('[role="dialog"]')) focusPage();
        return;
      }
      if (
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        target.closest('input, textarea, select, [contenteditable]') ||
        document.querySelector('[role="dialog"]')
      )
        return;
      if (event.key === 'Enter') {
        if (burst.enter()) event.preventDefault();
        return;
      }
      if (event.key.length !== 1 || event.key === ' ') return;
      if (actionOf(event.key, now.current)) event.preventDefault();
      if (!event.repeat) burst.press(event.key);
    };
    window.addEventListener('keydown', press);
    return () => {
      burst.clear();
      window.removeEventListener('keydown', press);
    };
  }, []);
}
