import { useState } from 'react';
import type { PracticeHand, PracticeSaid } from '@wunsch/contract';
import { Button } from '../ui/Button.tsx';
import { useWords } from '../words/words.tsx';

/** The learner’s hands at the mill: three drops under the micrometer. */
export function MillHands({ onHand }: { onHand: (hand: PracticeHand) => Promise<PracticeSaid | null> }) {
  const words = useWords();
  const { t } = words;
  const [seen, setSeen] = useState<Extract<PracticeSaid, { what: 'drops' }> | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const measure = () =>
    void onHand({ act: 'measure' }).then(
      (said) => {
        setWrong(null);
        if (said?.what === 'drops') setSeen(said);
      },
      (error: unknown) => setWrong(words.explain(error)),
    );
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line bg-panel px-4 py-2">
      <Button look="main" onClick={measure}>
        {t('practice.measure')}
      </Button>
      <p role="status" className="text-[13.5px]">
        {seen
          ? t('practice.drops', {
              drops: seen.um.map((um) => words.number(um)).join(', '),
              hours: words.number(seen.hours, 1),
            })
          : t('practice.measure.text')}
      </p>
      {wrong && (
        <p role="alert" className="text-[13.5px] text-bad">
          {wrong}
        </p>
      )}
    </div>
  );
}
