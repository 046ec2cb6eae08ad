import { useEffect, useState } from 'react';
import { smallestDifference, USUAL_NOISE } from '@wunsch/core/taste';
import { useWords } from '../../../words/words.tsx';
import { tasteWork } from '../../../workers/taste.ts';

/** What so many tasters can find, said before they are asked. */
export function Reach({
  choice,
  tasters,
  rounds,
}: {
  choice: 'triangle' | 'duo-trio' | null;
  tasters: number;
  rounds: number;
}) {
  const words = useWords();
  const { t } = words;
  const [reach, setReach] = useState<{ power: number; needed: number | null } | null>(null);
  const answers = tasters * rounds;
  useEffect(() => {
    if (choice === null) return;
    let current = true;
    tasteWork
      .ask((thread) => thread.reach(choice, answers))
      .then(
        (found) => current && setReach(found),
        () => undefined,
      );
    return () => {
      current = false;
    };
  }, [choice, answers]);
  if (choice !== null)
    return reach ? (
      <p className="text-[13.5px]">
        {t('panel.reach.choice', {
          answers,
          power: words.percent(reach.power, 0),
          needed: reach.needed ?? '—',
        })}
      </p>
    ) : null;
  if (answers < 2) return null;
  return (
    <p className="text-[13.5px]">
      {t('panel.reach.pairs', {
        tasters,
        rounds,
        d: words.number(smallestDifference({ assessors: tasters, rounds, sd: USUAL_NOISE }), 1),
      })}{' '}
      <span className="text-ink-3">{t('panel.reach.assumed', { sd: words.number(USUAL_NOISE, 1) })}</span>
    </p>
  );
}
