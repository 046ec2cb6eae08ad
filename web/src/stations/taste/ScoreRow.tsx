import { RadioGroup } from 'radix-ui';

/** Eleven steps from 0 to 10: a tap, the arrow keys, or the digit itself. */
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
    <RadioGroup.Root
      aria-label={name}
      orientation="horizontal"
      value={value === null ? '' : String(value)}
      onValueChange={(next) => onChange(Number(next))}
      onKeyDown={(e) => {
        if (!/^\d$/.test(e.key) || e.ctrlKey || e.metaKey || e.altKey) return;
        // Here a digit is a score, not the way to a station.
        e.stopPropagation();
        onChange(Number(e.key));
      }}
      className="mb-3"
    >
      <div className="mb-1 flex justify-between text-[12.5px]">
        <span className="font-semibold">{name}</span>
      </div>
      <div className="grid grid-cols-11 gap-1">
        {Array.from({ length: 11 }, (_, i) => (
          <RadioGroup.Item
            key={i}
            value={String(i)}
            aria-label={`${name} ${i}`}
            className={`num min-h-11 rounded border text-[14px] ${value === i ? 'border-violet bg-violet text-white' : 'border-edge bg-panel hover:bg-violet-tint'}`}
          >
            {i}
          </RadioGroup.Item>
        ))}
      </div>
      <div className="flex justify-between text-[12px] text-ink-3">
        <span>{low}</span>
        <span>{high}</span>
      </div>
    </RadioGroup.Root>
  );
}
