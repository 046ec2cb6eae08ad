import { useState } from 'react';
import { useWords } from '../words/words.tsx';

/** Waits for what hands do in a practice; what stands in the way is said until they do something else. */
export function useHands() {
  const { explain } = useWords();
  const [refused, setRefused] = useState<string | null>(null);
  return {
    lend: (done: Promise<unknown>) =>
      void done.then(
        () => setRefused(null),
        (error: unknown) => setRefused(explain(error)),
      ),
    wrong: refused && (
      <p role="alert" className="text-[13.5px] text-bad">
        {refused}
      </p>
    ),
  };
}
