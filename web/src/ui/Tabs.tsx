import { Tabs as Radix } from 'radix-ui';
import type { ReactNode } from 'react';

/** Sheets of one screen, one shown. */
export function Tabs({
  label,
  value,
  onChange,
  sheets,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  sheets: readonly { id: string; title: string; content: ReactNode }[];
}) {
  return (
    <Radix.Root value={value} onValueChange={onChange}>
      <Radix.List aria-label={label} className="mb-3 flex gap-1 overflow-x-auto border-b border-line">
        {sheets.map((s) => (
          <Radix.Trigger
            key={s.id}
            value={s.id}
            className="min-h-11 whitespace-nowrap border-b-[3px] border-transparent px-4 text-[14px] font-semibold text-ink-2 data-[state=active]:border-violet-text data-[state=active]:text-ink"
          >
            {s.title}
          </Radix.Trigger>
        ))}
      </Radix.List>
      {sheets.map((s) => (
        <Radix.Content key={s.id} value={s.id} tabIndex={-1}>
          {s.content}
        </Radix.Content>
      ))}
    </Radix.Root>
  );
}
