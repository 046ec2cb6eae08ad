import { useEffect, useMemo } from 'react';
import { useSWRConfig } from 'swr';
import { isStale, type Change, type ChangeEvent, type LiveReadings, type LiveWeight } from '@wunsch/contract';
import { useDoor } from './door.tsx';

/** Changes that come within this time are shown together, ms. */
const TOGETHER = 60;

/** How long is waited before a stream that was refused is asked for again, ms. */
const FIRST_WAIT = 1000;
const LONGEST_WAIT = 15_000;

const pathOf = (key: unknown): string | null => {
  // Several resources read together have a list for a key, its first part being the path.
  const path: unknown = Array.isArray(key) ? key[0] : key;
  return typeof path === 'string' ? path : null;
};

/** Reads again everything on screen that a change may have touched, or all of it. */
export function useRefresh(): {
  refresh: (change: Change) => Promise<unknown>;
  refreshAll: () => Promise<unknown>;
} {
  const { mutate } = useSWRConfig();
  return useMemo(
    () => ({
      refresh: (change) =>
        mutate((key) => {
          const path = pathOf(key);
          return path !== null && isStale(path, change);
        }),
      refreshAll: () => mutate((key) => pathOf(key)?.startsWith('/api/') ?? false),
    }),
    [mutate],
  );
}

/** Follows the workshop's stream of changes; the browser resumes it by its last event id. */
export function useLiveUpdates(on: boolean): void {
  const { eventsPath, moments, hearClock } = useDoor();
  const { refresh, refreshAll } = useRefresh();
  useEffect(() => {
    if (!on) return;
    let source: EventSource;
    let pending: Change[] = [];
    let timer: ReturnType<typeof setTimeout> | null = null;
    let wasAway = false;
    let again: ReturnType<typeof setTimeout> | null = null;
    let wait = FIRST_WAIT;
    const show = () => {
      timer = null;
      const byBatch = new Map<string | null, Change>();
      for (const { touches, batchId } of pending) {
        const so = byBatch.get(batchId);
        byBatch.set(batchId, { batchId, touches: [...new Set([...(so?.touches ?? []), ...touches])] });
      }
      pending = [];
      byBatch.forEach((change) => void refresh(change));
    };
    const open = () => {
      source = new EventSource(eventsPath);
      source.onmessage = (message) => {
        pending.push(JSON.parse(message.data as string) as ChangeEvent);
        timer ??= setTimeout(show, TOGETHER);
      };
      source.addEventListener('clock', (message) =>
        hearClock((JSON.parse(message.data as string) as { now: number }).now),
      );
      source.addEventListener('missed', () => void refreshAll());
      source.addEventListener('readings', (message) =>
        moments.tell('readings', JSON.parse(message.data as string) as LiveReadings[]),
      );
      source.addEventListener('weight', (message) =>
        moments.tell('weight', JSON.parse(message.data as string) as LiveWeight),
      );
      source.onerror = () => {
        wasAway = true;
        // The browser tries again by itself, but not after an answer that refuses: a server that is still opening gives one.
        if (source.readyState !== EventSource.CLOSED) return;
        again = setTimeout(open, wait);
        wait = Math.min(LONGEST_WAIT, wait * 1.6);
      };
      source.onopen = () => {
        // A stream that is new after a break may have missed more than it resumes: read everything on screen.
        if (wasAway) {
          moments.tell('back', null);
          void refreshAll();
        }
        wasAway = false;
        wait = FIRST_WAIT;
      };
    };
    open();
    return () => {
      if (timer) clearTimeout(timer);
      if (again) clearTimeout(again);
      source.close();
    };
  }, [on, eventsPath, moments, hearClock, refresh, refreshAll]);
}
