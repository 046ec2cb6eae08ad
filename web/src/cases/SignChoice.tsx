import { SIGNS, type Sign } from '@wunsch/core/faults';
import { useWords } from '../words/words.tsx';
import { SignPicture } from './SignPicture.tsx';

/** What is seen: pictures to tap, any number of them. */
export function SignChoice({
  label,
  chosen,
  onChoose,
  among = SIGNS,
}: {
  label: string;
  chosen: readonly Sign[];
  onChoose: (signs: Sign[]) => void;
  among?: readonly Sign[];
}) {
  const { t } = useWords();
  return (
    <div
      role="group"
      aria-label={label}
      className="grid grid-cols-[repeat(auto-fill,minmax(104px,1fr))] gap-1.5"
    >
      {among.map((sign) => {
        const isChosen = chosen.includes(sign);
        return (
          <button
            key={sign}
            type="button"
            aria-pressed={isChosen}
            onClick={() => onChoose(isChosen ? chosen.filter((s) => s !== sign) : [...chosen, sign])}
            className={`grid min-h-24 justify-items-center gap-1 rounded border p-1.5 text-center text-[12.5px] leading-tight ${isChosen ? 'border-2 border-violet-text bg-violet-tint font-semibold' : 'border-edge bg-panel hover:bg-panel-2'}`}
          >
            <SignPicture sign={sign} />
            {t(`sign.${sign}`)}
          </button>
        );
      })}
    </div>
  );
}
