import { useState } from 'react';
import { QuantityField, type QuantityFieldProps } from './QuantityField.tsx';

/** A quantity that stands and can be changed: what is typed is kept as one change, when Enter is pressed or the field is left, not at every key. */
export function KeptQuantity({
  value,
  onKeep,
  ...field
}: Omit<QuantityFieldProps, 'value' | 'onChange'> & { value: number; onKeep: (value: number) => void }) {
  const [typed, setTyped] = useState<number | null>(value);
  const [seen, setSeen] = useState(value);
  // It was changed elsewhere, or what was typed has been kept.
  if (seen !== value) {
    setSeen(value);
    setTyped(value);
  }
  const keep = () => {
    if (typed !== null && typed !== value) onKeep(typed);
  };
  return (
    <form
      noValidate
      onBlur={keep}
      onSubmit={(e) => {
        e.preventDefault();
        keep();
      }}
    >
      <QuantityField {...field} value={typed} onChange={setTyped} />
    </form>
  );
}
