import { useState } from 'react';
import { Button } from '../ui/Button.tsx';
import { QuantityField, type QuantityFieldProps } from '../ui/QuantityField.tsx';

/** A reading that cannot be: named, and put right where it stands by whoever may. */
export function PutRight({
  text,
  label,
  submit,
  field,
  may,
  onRight,
}: {
  text: string;
  /** What the number that it was is asked for by. */
  label: string;
  submit: string;
  field: Pick<QuantityFieldProps, 'dimension' | 'unit' | 'min' | 'max'>;
  may: boolean;
  onRight: (value: number) => Promise<unknown>;
}) {
  const [value, setValue] = useState<number | null>(null);
  return (
    <form
      className="mt-3 rounded border border-bad bg-bad-tint p-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (value !== null) void onRight(value).catch(() => undefined);
      }}
    >
      <p role="status" className="text-[13.5px] text-bad">
        {text}
      </p>
      {may && (
        <div className="mt-1 flex flex-wrap items-end gap-2">
          <QuantityField
            {...field}
            label={label}
            value={value}
            onChange={setValue}
            optional
            className="w-40"
          />
          <Button type="submit" disabled={value === null}>
            {submit}
          </Button>
        </div>
      )}
    </form>
  );
}
