import { useEffect } from 'react';
import { mutate } from 'swr';
import type { ChangeEvent } from '@wunsch/contract';

/** Which lists a kind of entry changes, beside the batch it belongs to. */
const LISTS: readonly [RegExp, readonly string[]][] = [
  [/^(lot|movement|step|batch|undo)/, ['/api/lots', '/api/stock', '/api/batches']],
  [/^(recipe)/, ['/api/recipes']],
  [/^(ingredient)/, ['/api/ingredients']],
  [/^(machine)/, ['/api/machines']],
  [/^(person)/, ['/api/people']],
  [/^(workshop)/, ['/api/session']],
];

/** Reads afresh everything on screen that an entry may have changed. */
export function refresh(kind: string, batchId: string | null): Promise<unknown> {
  const prefixes = LISTS.filter(([pattern]) => pattern.test(kind)).flatMap(([, paths]) => paths);
  if (batchId) prefixes.push(`/api/batches/${batchId}`);
  if (!/^(recipe|ingredient|person|session)/.test(kind)) prefixes.push('/api/bench', '/api/trail');
  return mutate(
    (key) =>
      typeof key === 'string' &&
      prefixes.some((p) => key === p || key.startsWith(`${p}?`) || key.startsWith(`${p}/`)),
  );
}

/** Follows the server's stream of changes while signed in; the browser resumes it by its last event id. */
export function useLiveUpdates(on: boolean): void {
  useEffect(() => {
    if (!on) return;
    const source = new EventSource('/api/events');
    let pending = new Map<string, ChangeEvent>();
    let timer: ReturnType<typeof setTimeout> | null = null;
    let wasAway = false;
    source.onmessage = (message) => {
      const event = JSON.parse(message.data as string) as ChangeEvent;
      pending.set(`${event.kind} ${event.batchId}`, event);
      timer ??= setTimeout(() => {
        timer = null;
        const all = [...pending.values()];
        pending = new Map();
        all.forEach((e) => void refresh(e.kind, e.batchId));
      }, 60);
    };
    source.onerror = () => (wasAway = true);
    source.onopen = () => {
      // A stream that is new after a break may have missed more than it resumes: read everything on screen.
      if (wasAway) void mutate((key) => typeof key === 'string' && key.startsWith('/api/'));
      wasAway = false;
    };
    return () => {
      if (timer) clearTimeout(timer);
      source.close();
    };
  }, [on]);
}
