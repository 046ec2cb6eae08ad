import { useEffect } from 'react';
import { focusPage } from '../ui/focusPage.ts';

/**
 * What has the focus may go while it has it: a button of a step that has just ended, a line that is voided, a page that is left. Then the page has
 * it, and Tab goes on from its top instead of from the top of everything.
 */
export function useFocusKept(): void {
  useEffect(() => {
    let last: Element | null = null;
    const had = (e: FocusEvent) => {
      last = e.target instanceof Element ? e.target : null;
    };
    const gone = new MutationObserver(() => {
      if (!last || last.isConnected) return;
      last = null;
      if (document.activeElement === document.body) focusPage();
    });
    document.addEventListener('focusin', had);
    gone.observe(document.body, { childList: true, subtree: true });
    return () => {
      document.removeEventListener('focusin', had);
      gone.disconnect();
    };
  }, []);
}
