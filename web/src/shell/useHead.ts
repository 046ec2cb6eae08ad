import { useCallback } from 'react';

/** Tells the page's styles, as `--head`, how high the head of the page is at the moment: alarms make it higher. */
export function useHead(): (head: HTMLElement | null) => (() => void) | undefined {
  return useCallback((head: HTMLElement | null) => {
    if (!head) return undefined;
    const tell = () => document.documentElement.style.setProperty('--head', `${head.offsetHeight}px`);
    tell();
    if (typeof ResizeObserver === 'undefined') return undefined;
    const observer = new ResizeObserver(tell);
    observer.observe(head);
    return () => observer.disconnect();
  }, []);
}
