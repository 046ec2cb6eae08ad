import { useWords } from '../../words/words.tsx';

/** Whether a lot cost nothing, as a customer’s own beans or a gift do; not asked where there is a price. */
export function FreeBox({
  pricePerKg,
  isFree,
  onChange,
}: {
  pricePerKg: number;
  isFree: boolean;
  onChange: (isFree: boolean) => void;
}) {
  const { t } = useWords();
  if (pricePerKg > 0) return null;
  return (
    <label className="flex min-h-11 items-center gap-3 sm:col-span-2">
      <input
        type="checkbox"
        checked={isFree}
        onChange={(e) => onChange(e.target.checked)}
        className="size-5 accent-(--violet-text)"
      />
      {t('lot.free')}
    </label>
  );
}
