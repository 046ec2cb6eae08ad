import { doubtfulLoss, type Station } from '@wunsch/core/ledger';
import { useWords } from '../words/words.tsx';

/** What is to be said where so much of what went into a station would be gone that the weight is likelier mistyped; null where it may be. */
export function useDoubt(station: Station): (inMg: number, outMg: number) => string | null {
  const { t, percent } = useWords();
  return (inMg, outMg) => {
    const said = inMg > 0 && outMg >= 0 ? doubtfulLoss(station, inMg, outMg) : null;
    if (said === null) return null;
    return t('weight.doubt', {
      share: percent(said.share, 0),
      low: percent(said.low, 0),
      high: percent(said.high, 0),
    });
  };
}
