import { Tabs as Radix } from 'radix-ui';
import { useEffect, useRef, type ReactNode } from 'react';

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
  const list = useRef<HTMLDivElement>(null);
  // Where there are more than fit, the one that is shown is in sight.
  useEffect(() => {
    const strip = list.current;
    const active = strip?.querySelector<HTMLElement>('[data-state=active]');
    if (!strip || !active) return;
    const [left, right] = [active.offsetLeft, active.offsetLeft + active.offsetWidth];
    if (left < strip.scrollLeft || right > strip.scrollLeft + strip.clientWidth)
      strip.scrollLeft = left - (strip.clientWidth - active.offsetWidth) / 2;
  }, [value]);
  return (
    <Radix.Root value={value} onValueChange={onChange}>
      <Radix.List
        ref={list}
        aria-label={label}
        className="relative mb-3 flex overflow-x-auto border-b border-line"
      >
        {sheets.map((s) => (
          <Radix.Trigger
            key={s.id}
            value={s.id}
            className="min-h-11 whitespace-nowrap border-b-[3px] border-transparent px-3 outline-offset-[-3px] text-[14px] font-semibold text-ink-2 data-[state=active]:border-violet-text data-[state=active]:text-ink"
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
