import { useMemo } from 'react';
import { useWords } from '../words/words.tsx';
import { useEntry } from './entry.ts';

/** Makes entries with the page's words. */
export function useEntryHere() {
  const { t, explain } = useWords();
  const words = useMemo(
    () => ({ undo: t('undo'), undone: t('undone'), waiting: t('outbox.waits'), explain }),
    [t, explain],
  );
  return useEntry(words);
}
