import { CheckField } from '../../ui/Field.tsx';
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
    <div className="sm:col-span-2">
      <CheckField label={t('lot.free')} checked={isFree} onChange={onChange} />
    </div>
  );
}
