import { useCallback, useEffect, useState, type Dispatch, type SetStateAction } from 'react';

const PREFIX = 'wunsch.typed.';

/** Untouched for this long, what was typed is no longer offered, ms. */
const KEPT_FOR = 14 * 86_400_000;

function earlier<T>(key: string): T | null {
  try {
    const kept = JSON.parse(localStorage.getItem(PREFIX + key) ?? 'null') as { at: number; value: T } | null;
    return kept && Date.now() - kept.at < KEPT_FOR ? kept.value : null;
  } catch {
    return null;
  }
}

function store(key: string, value: unknown): void {
  try {
    if (value === null) localStorage.removeItem(PREFIX + key);
    else localStorage.setItem(PREFIX + key, JSON.stringify({ at: Date.now(), value }));
  } catch {
    // A browser that keeps nothing still works; only this safety is missing.
  }
}

/**
 * State of a form that takes minutes to fill, kept in the browser while it is typed: a reload, another page or a power
 * cut in the middle of it costs nothing. `key` names the form and what it is about; `done` forgets it once it is sent.
 * `null` means that nothing was typed yet.
 */
export function useKept<T>(key: string): [T | null, Dispatch<SetStateAction<T | null>>, () => void] {
  const [state, setState] = useState(() => ({ key, value: earlier<T>(key) }));
  // The form has turned to something else without being drawn anew: what was typed stays with what it was typed for.
  const current = state.key === key ? state : { key, value: earlier<T>(key) };
  if (state !== current) setState(current);
  const { value } = current;
  useEffect(() => {
    store(key, value);
  }, [key, value]);
  const setValue = useCallback(
    (next: SetStateAction<T | null>) =>
      setState((now) => ({
        key: now.key,
        value: typeof next === 'function' ? (next as (value: T | null) => T | null)(now.value) : next,
      })),
    [],
  );
  // At once, since the page it was typed on may be gone before it is drawn again.
  const forget = useCallback(() => {
    store(key, null);
    setValue(null);
  }, [key, setValue]);
  return [value, setValue, forget];
}
