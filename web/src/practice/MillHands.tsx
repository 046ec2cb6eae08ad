import type { PracticeHand, PracticeSaid } from '@wunsch/contract';
import { Button } from '../ui/Button.tsx';
import { useWords } from '../words/words.tsx';
import { useHands } from './useHands.tsx';

/** The learner’s hands at the mill: three drops under the micrometer. */
export function MillHands({
  seen,
  onHand,
}: {
  seen: readonly PracticeSaid[];
  onHand: (hand: PracticeHand) => Promise<unknown>;
}) {
  const words = useWords();
  const { t } = words;
  const { lend, wrong } = useHands();
  const drops = seen.find((s) => s.what === 'drops');
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line bg-panel px-4 py-2">
      <Button look="main" onClick={() => lend(onHand({ act: 'measure' }))}>
        {t('practice.measure')}
      </Button>
      <p role="status" className="text-[13.5px]">
        {drops
          ? t('practice.drops', {
              drops: drops.um.map((um) => words.number(um)).join(', '),
              hours: words.number(drops.hours, 1),
            })
          : t('practice.measure.text')}
      </p>
      {wrong}
    </div>
  );
}
