import { ALLERGENS } from '@wunsch/core/label';
import { Button } from '../ui/Button.tsx';
import { useWords } from '../words/words.tsx';

/** Allergens to tick; those already there that have no word of ours stay. */
export function AllergenBoxes({
  legend,
  value,
  onChange,
  offered = ALLERGENS,
  likely = [],
}: {
  legend: string;
  value: readonly string[];
  onChange: (value: string[]) => void;
  offered?: readonly string[];
  /** Those its name or what it holds speaks of: they are asked about while nobody has ticked them. */
  likely?: readonly string[];
}) {
  const words = useWords();
  const unticked = [...new Set(likely)].filter((a) => !value.includes(a));
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
      {unticked.length > 0 && (
        <p role="status" className="mt-2 flex flex-wrap items-center gap-3 text-[13.5px]">
          {words.t('allergens.likely', { list: unticked.map((a) => words.word('allergen', a)).join(', ') })}
          <Button onClick={() => onChange([...value, ...unticked])}>
            {words.t('allergens.likely.tick')}
          </Button>
        </p>
      )}
    </fieldset>
  );
}
