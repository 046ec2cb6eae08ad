import { useEffect, useState, useSyncExternalStore } from 'react';

const matches = (query: string) => ({
  subscribe: (changed: () => void) => {
    const list = window.matchMedia(query);
    list.addEventListener('change', changed);
    return () => list.removeEventListener('change', changed);
  },
  now: () => window.matchMedia(query).matches,
});

const WIDE = matches('(min-width: 1280px)');
const NARROW = matches('(max-width: 767px)');

/** The place at the side of the page where it may show its own instead of the slip; null where there is no room. */
export function useBeside(): HTMLElement | null {
  const isWide = useSyncExternalStore(WIDE.subscribe, WIDE.now);
  const [place, setPlace] = useState<HTMLElement | null>(null);
  useEffect(() => setPlace(document.getElementById('beside')), []);
  return isWide ? place : null;
}

/** Whether there is room for one column only. */
export const useIsNarrow = (): boolean => useSyncExternalStore(NARROW.subscribe, NARROW.now);
