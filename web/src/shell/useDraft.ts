import { useCallback, useState } from 'react';
import { ApiProblem } from './api.ts';

/** What is being typed for one entry. */
export interface Draft<T extends object> {
  draft: T;
  /** Changes some of its fields. */
  change: (part: Partial<T>) => void;
  /**
   * Sends what is typed, and clears the form at once so that the next can be typed while this one travels.
   * If it is refused it comes back, unless something new stands there by then. Resolves with whether it was
   * accepted (or waits in the outbox); the refusal itself is told by whoever sends.
   */
  keep: (send: (sent: T) => Promise<unknown>) => Promise<boolean>;
}

/** A form for entries that follow one another: readings, weighings, notes. */
export function useDraft<T extends object>(empty: T): Draft<T> {
  const [blank] = useState(empty);
  const [draft, setDraft] = useState(blank);
  const change = useCallback((part: Partial<T>) => setDraft((now) => ({ ...now, ...part })), []);
  const keep = async (send: (sent: T) => Promise<unknown>) => {
    setDraft(blank);
    try {
      await send(draft);
      return true;
    } catch (error) {
      setDraft((now) => (now === blank ? draft : now));
      if (!(error instanceof ApiProblem)) throw error;
      return false;
    }
  };
  return { draft, change, keep };
}
