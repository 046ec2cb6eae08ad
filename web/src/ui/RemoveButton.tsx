import { Trash2 } from 'lucide-react';

/** Takes a row out of a list. */
export function RemoveButton({
  label,
  onRemove,
  disabled = false,
  className = '',
}: {
  /** What it takes out, for who cannot see the row. */
  label: string;
  onRemove: () => void;
  disabled?: boolean;
  className?: string;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      disabled={disabled}
      onClick={onRemove}
      className={`grid size-11 place-items-center rounded hover:bg-violet-tint disabled:opacity-40 ${className}`}
    >
      <Trash2 size={17} aria-hidden="true" />
    </button>
  );
}
