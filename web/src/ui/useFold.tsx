import { useState, type ReactNode } from 'react';
import { useWords } from '../words/words.tsx';
import { Button } from './Button.tsx';

/** A long list shown short at first. */
export interface Fold {
  /** Whether the row at a place is not shown; it is printed all the same. */
  hides: (index: number) => boolean;
  /** Shows all of them; null where there are no more. */
  more: ReactNode;
}

/** Shows the first rows of a list, and the others on a tap and on paper. A list hardly longer than that is shown whole. */
export function useFold(rows: number, first: number): Fold {
  const { t } = useWords();
  const [isOpen, setOpen] = useState(false);
  const isFolded = !isOpen && rows > first + 3;
  return {
    hides: (index) => isFolded && index >= first,
    more: isFolded ? (
      <Button className="no-print mt-2" onClick={() => setOpen(true)}>
        {t('table.all', { n: rows })}
      </Button>
    ) : null,
  };
}
