import { CURRENCIES } from '@wunsch/core/quantity';
import { useWords } from '../words/words.tsx';
import { SelectField } from './Field.tsx';

/** Currencies by code, each with its name as it is called here; one that is set and not listed stays to be chosen. */
export function CurrencyField({
  label,
  value,
  hint,
  onChange,
}: {
  label: string;
  value: string;
  hint?: string | undefined;
  onChange: (currency: string) => void;
}) {
  const { language } = useWords();
  const names = new Intl.DisplayNames(language, { type: 'currency' });
  return (
    <SelectField label={label} value={value} hint={hint} onChange={(e) => onChange(e.target.value)}>
      {(CURRENCIES.includes(value) ? CURRENCIES : [value, ...CURRENCIES]).map((code) => (
        <option key={code} value={code}>
          {`${code} · ${names.of(code)}`}
        </option>
      ))}
    </SelectField>
  );
}
