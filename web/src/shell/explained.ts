import { useSyncExternalStore } from 'react';

const KEY = 'wunsch.explained';
const listeners = new Set<() => void>();

/** Pictures a person has had explained on this device, as `person picture`. */
function all(): string[] {
  try {
    const kept = JSON.parse(localStorage.getItem(KEY) ?? '[]') as unknown;
    return Array.isArray(kept) ? kept.filter((k): k is string => typeof k === 'string') : [];
  } catch {
    return [];
  }
}

/** Whether a person has had a picture explained, and how to say so. What a browser does not keep is explained again. */
export function useExplained(personId: string, picture: string): [boolean, () => void] {
  const key = `${personId} ${picture}`;
  const isDone = useSyncExternalStore(
    (tell) => {
      listeners.add(tell);
      return () => listeners.delete(tell);
    },
    () => all().includes(key),
  );
  const done = () => {
    try {
      localStorage.setItem(KEY, JSON.stringify([...all().filter((k) => k !== key), key]));
    } catch {
      // Then it is explained again.
    }
    for (const tell of listeners) tell();
  };
  return [isDone, done];
}
