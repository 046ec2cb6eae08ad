import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';

/** How much of something: pieces of what is counted, a mass of what is not. */
export interface Amount {
  count: number | null;
  massMg: number | null;
}

/** All there is of something. */
export const allOf = (there: { count: number | null; massMg: number }): Amount => ({
  count: there.count,
  massMg: there.count === null ? there.massMg : null,
});

/** Whether an amount has been named. */
export const isNamed = (there: { count: number | null }, amount: Amount): boolean =>
  (there.count === null ? amount.massMg : amount.count) !== null;

/** From so much on a sack is weighed in kg, mg. */
const HEAVY_MG = 10_000_000;

/** How much of something there is, asked for in pieces where it is counted and in mass where it is not; no more than there is. */
export function AmountField({
  there,
  value,
  onChange,
  error = null,
  hint,
}: {
  there: { count: number | null; massMg: number };
  value: Amount;
  onChange: (amount: Amount) => void;
  error?: string | null;
  hint?: string;
}) {
  const { t, massUnit } = useWords();
  return there.count === null ? (
    <QuantityField
      label={t('weight')}
      dimension="mass"
      unit={massUnit === 'g' && there.massMg >= HEAVY_MG ? 'kg' : undefined}
      value={value.massMg}
      onChange={(massMg) => onChange({ count: null, massMg })}
      min={1}
      max={there.massMg}
      error={error}
      hint={hint}
    />
  ) : (
    <QuantityField
      label={t('pieces')}
      dimension="count"
      value={value.count}
      onChange={(count) => onChange({ count, massMg: null })}
      min={1}
      max={there.count}
      error={error}
      hint={hint}
    />
  );
}
