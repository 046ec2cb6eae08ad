/** Eleven steps from 0 to 10, each a tap. */
export function ScoreRow({
  name,
  low,
  high,
  value,
  onChange,
}: {
  name: string;
  low: string;
  high: string;
  value: number | null;
  onChange: (value: number) => void;
}) {
  return (
    <div role="radiogroup" aria-label={name} className="mb-3">
      <div className="mb-1 flex justify-between text-[12.5px]">
        <span className="font-semibold">{name}</span>
      </div>
      <div className="grid grid-cols-11 gap-1">
        {Array.from({ length: 11 }, (_, i) => (
          <button
            key={i}
            type="button"
            role="radio"
            aria-checked={value === i}
            aria-label={`${name} ${i}`}
            onClick={() => onChange(i)}
            className={`num min-h-11 rounded border text-[14px] ${value === i ? 'border-violet bg-violet text-white' : 'border-edge bg-panel hover:bg-violet-tint'}`}
          >
            {i}
          </button>
        ))}
      </div>
      <div className="flex justify-between text-[12px] text-ink-3">
        <span>{low}</span>
        <span>{high}</span>
      </div>
    </div>
  );
}
