import { useState } from 'react';
import { openReadings, TableError } from '../shell/openTable.ts';
import { useWords } from '../words/words.tsx';

/** A file of temperatures that is being taken in: its text once it is open, or why it cannot be. */
export function useReadingsFile() {
  const { t, explain } = useWords();
  const [text, setText] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  return {
    text,
    wrong,
    open: (file: File) => {
      setWrong(null);
      void openReadings(file).then(setText, (error: unknown) =>
        setWrong(error instanceof TableError ? t('csv.unreadable') : explain(error)),
      );
    },
    close: () => setText(null),
  };
}
