import { ALLERGENS } from '@wunsch/core/label';
import { useWords } from '../words/words.tsx';

/** Allergens to tick; those already there that have no word of ours stay. */
export function AllergenBoxes({
  legend,
  value,
  onChange,
  offered = ALLERGENS,
}: {
  legend: string;
  value: readonly string[];
  onChange: (value: string[]) => void;
  offered?: readonly string[];
}) {
  const words = useWords();
  return (
    <fieldset className="col-span-full">
      <legend className="mb-1 text-[13px] text-ink-3">{legend}</legend>
      <div className="flex flex-wrap gap-2">
        {[...new Set([...offered, ...value])].map((a) => (
          <label key={a} className="flex min-h-11 items-center gap-2 rounded border border-edge px-3">
            <input
              type="checkbox"
              checked={value.includes(a)}
              onChange={(e) => onChange(e.target.checked ? [...value, a] : value.filter((x) => x !== a))}
              className="size-5 accent-(--violet-text)"
            />
            {words.word('allergen', a)}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
