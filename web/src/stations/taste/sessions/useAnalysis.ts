import { useEffect, useMemo, useState } from 'react';
import type { SessionResults } from '@wunsch/contract';
import { openedSession, type SessionAnalysis } from '@wunsch/core/taste';
import { tasteWork } from '../../../workers/taste.ts';

/** What an opened session says, reckoned on the taste station’s thread; null until it is. */
export function useAnalysis(results: SessionResults | undefined): SessionAnalysis | null {
  const asked = useMemo(
    () => (results ? openedSession(results.session, results.cards, results.renames) : null),
    [results],
  );
  const [found, setFound] = useState<{ asked: object; analysis: SessionAnalysis } | null>(null);
  useEffect(() => {
    if (!asked) return;
    let current = true;
    tasteWork
      .ask((thread) => thread.analyse(asked))
      .then(
        (analysis) => current && setFound({ asked, analysis }),
        () => undefined,
      );
    return () => {
      current = false;
    };
  }, [asked]);
  return found && found.asked === asked ? found.analysis : null;
}
