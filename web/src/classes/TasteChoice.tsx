import type { ClassSeat } from '@wunsch/contract';
import { useWords } from '../words/words.tsx';
import { allergenList, shareText } from './classNames.ts';

/** How dark, and what goes in: what a guest chooses. */
export interface Taste {
  cacaoPercent: number | null;
  flavourIds: string[];
}

/** Choosing among what a class offers, by large buttons. */
export function TasteChoice({
  of,
  value,
  onChange,
}: {
  of: Pick<ClassSeat, 'sweetness' | 'flavours' | 'flavoursEach'>;
  value: Taste;
  onChange: (value: Taste) => void;
}) {
  const words = useWords();
  const { t } = words;
  const look = (isOn: boolean) =>
    `flex min-h-12 cursor-pointer items-center gap-2 rounded border px-4 has-focus-visible:outline-2 ${isOn ? 'border-violet bg-violet-tint font-semibold' : 'border-edge bg-panel'}`;
  return (
    <>
      <fieldset>
        <legend className="mb-1 text-[13px] font-medium text-ink-2">{t('class.seat.sweetness')}</legend>
        <div className="flex flex-wrap gap-2">
          {of.sweetness.map((s) => (
            <label key={s} className={look(value.cacaoPercent === s)}>
              <input
                type="radio"
                name="cacao"
                checked={value.cacaoPercent === s}
                onChange={() => onChange({ ...value, cacaoPercent: s })}
                className="size-5 accent-(--violet-text)"
              />
              {shareText(s, words)}
            </label>
          ))}
        </div>
      </fieldset>
      {of.flavours.length > 0 && of.flavoursEach > 0 && (
        <fieldset>
          <legend className="mb-1 text-[13px] font-medium text-ink-2">
            {t('class.seat.flavours', { n: of.flavoursEach })}
          </legend>
          <div className="flex flex-wrap gap-2">
            {of.flavours.map((f) => {
              const isOn = value.flavourIds.includes(f.ingredientId);
              return (
                <label key={f.ingredientId} className={look(isOn)}>
                  <input
                    type="checkbox"
                    checked={isOn}
                    disabled={!isOn && value.flavourIds.length >= of.flavoursEach}
                    onChange={(e) =>
                      onChange({
                        ...value,
                        flavourIds: e.target.checked
                          ? [...value.flavourIds, f.ingredientId]
                          : value.flavourIds.filter((x) => x !== f.ingredientId),
                      })
                    }
                    className="size-5 accent-(--violet-text)"
                  />
                  <span>
                    {words.word('ingredient', f.name)}
                    {f.allergens.length > 0 && (
                      <b className="ml-2 text-[12.5px]">{allergenList(f.allergens, words)}</b>
                    )}
                  </span>
                </label>
              );
            })}
          </div>
        </fieldset>
      )}
    </>
  );
}
