import { useCallback } from 'react';

/** Somebody who has touched the page within so many ms has a hand at it. */
const AT_WORK = 10_000;

/** Nearer to the top than this a browser does not hold the page still by itself, px. */
const AT_TOP = 2;

/**
 * Tells the page's styles, as `--head`, how high the head of the page is at the moment: alarms make it higher. What somebody is just working at
 * stays where it is all the same: where the page stands at its top it is moved on by as much.
 */
export function useHead(): (head: HTMLElement | null) => (() => void) | undefined {
  return useCallback((head: HTMLElement | null) => {
    if (!head) return undefined;
    let height = head.offsetHeight;
    let touched = -Infinity;
    const touch = () => void (touched = performance.now());
    const tell = () => {
      const grown = head.offsetHeight - height;
      height = head.offsetHeight;
      document.documentElement.style.setProperty('--head', `${height}px`);
      if (grown > 0 && window.scrollY < AT_TOP && performance.now() - touched < AT_WORK)
        window.scrollBy(0, grown);
    };
    document.documentElement.style.setProperty('--head', `${height}px`);
    if (typeof ResizeObserver === 'undefined') return undefined;
    const observer = new ResizeObserver(tell);
    observer.observe(head);
    for (const what of ['pointerdown', 'pointermove', 'keydown'] as const)
      window.addEventListener(what, touch, { capture: true, passive: true });
    return () => {
      observer.disconnect();
      for (const what of ['pointerdown', 'pointermove', 'keydown'] as const)
        window.removeEventListener(what, touch, { capture: true });
    };
  }, []);
}
