import { useEffect } from 'react';
import { mutate } from 'swr';
import type { ChangeEvent, LiveReadings, LiveWeight } from '@wunsch/contract';

/** What comes in by the moment and is not read from the server's pages. */
interface Moments {
  readings: LiveReadings[];
  weight: LiveWeight;
  /** The stream has come back after a break: what was missed must be read afresh. */
  back: null;
}

const listeners: { [K in keyof Moments]: Set<(value: Moments[K]) => void> } = {
  readings: new Set(),
  weight: new Set(),
  back: new Set(),
};

/** Calls back for readings, weights, or the stream's return, until the returned function is called. */
export function onMoment<K extends keyof Moments>(
  kind: K,
  listener: (value: Moments[K]) => void,
): () => void {
  listeners[kind].add(listener);
  return () => void listeners[kind].delete(listener);
}

function tell<K extends keyof Moments>(kind: K, value: Moments[K]): void {
  listeners[kind].forEach((listener) => listener(value));
}

/** Which lists a kind of entry changes, beside the batch it belongs to. */
const LISTS: readonly [RegExp, readonly string[]][] = [
  [/^(lot|movement|step|batch|undo|observation|attachment)/, ['/api/lots']],
  [/^(lot|movement|step|batch|undo)/, ['/api/stock', '/api/batches', '/api/sortings']],
  [/^(step|observation|readings|undo|movement)/, ['/api/roasts', '/api/steps']],
  [/^(observation|undo)/, ['/api/observations', '/api/traps', '/api/retastes']],
  [/^(step|movement|observation|batch|undo)/, ['/api/winnowings', '/api/machines']],
  [/^(step|batch|tasting|undo)/, ['/api/conches']],
  [/^(trial|undo)/, ['/api/trials']],
  [/^(attachment|undo)/, ['/api/attachments']],
  [/^(sample|undo)/, ['/api/samples']],
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
  if (!/^(recipe|ingredient|person|session|readings\.stream)/.test(kind))
    prefixes.push('/api/bench', '/api/trail');
  return mutate((key) => {
    // Several resources read together have a list for a key, its first part being the path.
    const path: unknown = Array.isArray(key) ? key[0] : key;
    return (
      typeof path === 'string' &&
      prefixes.some((p) => path === p || path.startsWith(`${p}?`) || path.startsWith(`${p}/`))
    );
  });
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
    source.addEventListener('readings', (message) =>
      tell('readings', JSON.parse(message.data as string) as LiveReadings[]),
    );
    source.addEventListener('weight', (message) =>
      tell('weight', JSON.parse(message.data as string) as LiveWeight),
    );
    source.onerror = () => (wasAway = true);
    source.onopen = () => {
      // A stream that is new after a break may have missed more than it resumes: read everything on screen.
      if (wasAway) tell('back', null);
      if (wasAway) void mutate((key) => typeof key === 'string' && key.startsWith('/api/'));
      wasAway = false;
    };
    return () => {
      if (timer) clearTimeout(timer);
      source.close();
    };
  }, [on]);
}
