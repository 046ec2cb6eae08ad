import { useWords } from '../words/words.tsx';
import { QuantityField } from './QuantityField.tsx';

/** How long hands were at it, s, where anybody says: it counts towards the cost. */
export function HandsField({
  value,
  onChange,
  hint,
}: {
  value: number | null;
  onChange: (seconds: number | null) => void;
  hint?: string;
}) {
  const { t } = useWords();
  return (
    <QuantityField
      label={t('close.minutes')}
      dimension="duration"
      value={value}
      onChange={onChange}
      min={0}
      max={100_000 * 60}
      hint={hint ?? t('close.minutes.hint')}
      optional
    />
  );
}
