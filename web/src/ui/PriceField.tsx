import { MG_PER_POUND } from '@wunsch/core/quantity';
import { useWords } from '../words/words.tsx';
import { MoneyField } from './QuantityField.tsx';

/** A field for a price by mass, typed by the kilogram or the pound as the workshop weighs; `value` is minor units per kg. */
export function PriceField({
  label,
  value,
  onChange,
}: {
  /** Left out it is the price of whatever the form is about. */
  label?: string;
  value: number;
  onChange: (minorPerKg: number) => void;
}) {
  const { t, heavyUnit } = useWords();
  const kg = heavyUnit === 'lb' ? MG_PER_POUND / 1e6 : 1;
  return (
    <MoneyField
      label={label ?? t('lot.price', { unit: heavyUnit })}
      value={Math.round(value * kg)}
      onChange={(minor) => onChange(Math.round(minor / kg))}
    />
  );
}
