import { BOWL_PLACES, type BowlPlace } from '@wunsch/core/trainer';
import { useWords } from '../words/words.tsx';
import { useHands } from './useHands.tsx';

/** The learner's hands: where the practised bowl stands. In the workshop nobody has to say that. */
export function BowlHands({
  place,
  onPut,
  isHeld,
}: {
  place: BowlPlace;
  onPut: (place: BowlPlace) => Promise<unknown>;
  isHeld: boolean;
}) {
  const { t } = useWords();
  const { lend, wrong } = useHands();
  return (
    <div className="border-b border-line bg-panel px-4 py-2">
      <div role="radiogroup" aria-label={t('practice.hands')} className="flex flex-wrap items-center gap-2">
        <span className="mr-2 text-[13px] text-ink-2">{t('practice.hands')}</span>
        {BOWL_PLACES.map((p) => (
          <button
            key={p}
            type="button"
            role="radio"
            aria-checked={place === p}
            disabled={isHeld}
            onClick={() => lend(onPut(p))}
            className={`min-h-11 rounded border px-4 text-[13.5px] font-semibold disabled:opacity-55 ${place === p ? 'border-violet bg-violet text-white' : 'border-edge bg-panel hover:bg-panel-2'}`}
          >
            {t(`practice.place.${p}`)}
          </button>
        ))}
      </div>
      {wrong}
    </div>
  );
}
