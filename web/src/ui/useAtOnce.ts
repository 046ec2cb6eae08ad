import { useState } from 'react';

/**
 * Something that is kept elsewhere and set here: it is at once what was set, until what is known has changed; as it was where it is
 * refused. Who keeps it says why.
 */
export function useAtOnce<T>(known: T, keep: (next: T) => Promise<unknown>): [T, (next: T) => void] {
  const [asked, setAsked] = useState<{ value: T; was: T } | null>(null);
  const set = (value: T) => {
    setAsked({ value, was: known });
    keep(value).catch(() => setAsked(null));
  };
  return [asked && Object.is(asked.was, known) ? asked.value : known, set];
}
