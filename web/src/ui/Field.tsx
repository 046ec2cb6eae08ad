import { RadioGroup } from 'radix-ui';
import {
  useId,
  type InputHTMLAttributes,
  type ReactNode,
  type SelectHTMLAttributes,
  type TextareaHTMLAttributes,
} from 'react';

/** A field's frame: its name above, what is wrong or what is meant below. */
export function Field({
  label,
  error,
  hint,
  children,
  className = '',
}: {
  label: ReactNode;
  error?: string | null;
  hint?: ReactNode;
  children: (ids: { id: string; describedBy: string | undefined; invalid: boolean }) => ReactNode;
  className?: string;
}) {
  const id = useId();
  const note = error ?? hint;
  return (
    <div className={className}>
      <label htmlFor={id} className="mb-1 block text-[12.5px] font-medium text-ink-2">
        {label}
      </label>
      {children({ id, describedBy: note ? `${id}-note` : undefined, invalid: Boolean(error) })}
      {note && (
        <div
          id={`${id}-note`}
          className={`mt-1 text-[12.5px] ${error ? 'text-bad' : 'text-ink-3'}`}
          role={error ? 'alert' : undefined}
        >
          {note}
        </div>
      )}
    </div>
  );
}

const BOX =
  'w-full min-h-11 rounded border border-edge bg-panel px-3 text-[15px] text-ink placeholder:text-ink-3 aria-invalid:border-bad';

/** A line of text. */
export function TextField({
  label,
  error,
  hint,
  className,
  ...rest
}: { label: ReactNode; error?: string | null; hint?: ReactNode } & InputHTMLAttributes<HTMLInputElement>) {
  return (
    <Field label={label} error={error} hint={hint} className={className}>
      {({ id, describedBy, invalid }) => (
        <input
          id={id}
          aria-describedby={describedBy}
          aria-invalid={invalid || undefined}
          className={BOX}
          autoComplete="off"
          {...rest}
        />
      )}
    </Field>
  );
}

/** Several lines of text. */
export function TextArea({
  label,
  error,
  hint,
  className,
  ...rest
}: {
  label: ReactNode;
  error?: string | null;
  hint?: ReactNode;
} & TextareaHTMLAttributes<HTMLTextAreaElement>) {
  return (
    <Field label={label} error={error} hint={hint} className={className}>
      {({ id, describedBy, invalid }) => (
        <textarea
          id={id}
          aria-describedby={describedBy}
          aria-invalid={invalid || undefined}
          rows={3}
          className={`${BOX} py-2`}
          {...rest}
        />
      )}
    </Field>
  );
}

/** A choice from a short list. */
export function SelectField({
  label,
  error,
  hint,
  className,
  children,
  ...rest
}: {
  label: ReactNode;
  error?: string | null;
  hint?: ReactNode;
  children: ReactNode;
} & SelectHTMLAttributes<HTMLSelectElement>) {
  return (
    <Field label={label} error={error} hint={hint} className={className}>
      {({ id, describedBy }) => (
        <select id={id} aria-describedby={describedBy} className={BOX} {...rest}>
          {children}
        </select>
      )}
    </Field>
  );
}

/** Something that is so or not. */
export function CheckField({
  label,
  checked,
  onChange,
}: {
  label: string;
  checked: boolean;
  onChange: (checked: boolean) => void;
}) {
  return (
    <label className="flex min-h-11 items-center gap-3">
      <input
        type="checkbox"
        checked={checked}
        onChange={(e) => onChange(e.target.checked)}
        className="size-5 accent-(--violet-text)"
      />
      {label}
    </label>
  );
}

/** Whether a choice and what it says more find room in half a phone's width. */
const isBrief = ({ label, note = '' }: { label: string; note?: string }) =>
  label.length <= 18 && note.length <= 14;

/** A row of large choices, one pressed. */
export function Choice<V extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: V | null;
  options: readonly { value: V; label: string; note?: string }[];
  onChange: (value: V) => void;
}) {
  return (
    <RadioGroup.Root
      aria-label={label}
      value={value ?? ''}
      onValueChange={(next) => onChange(next as V)}
      // Where each says more, they stand below each other on a phone, equally wide; two in a row where all are brief.
      className={
        options.some((o) => o.note)
          ? `grid gap-2 sm:flex sm:flex-wrap ${options.every(isBrief) ? 'grid-cols-2' : ''}`
          : 'flex flex-wrap gap-2'
      }
    >
      {options.map((o) => (
        <RadioGroup.Item
          key={o.value}
          value={o.value}
          className={`min-h-11 rounded border px-3 py-1 text-left text-[13.5px] font-semibold ${o.value === value ? 'border-violet bg-violet text-white' : 'border-edge bg-panel text-ink hover:bg-panel-2'}`}
        >
          {o.label}
          {o.note && <span className="block text-[12px] font-normal">{o.note}</span>}
        </RadioGroup.Item>
      ))}
    </RadioGroup.Root>
  );
}
