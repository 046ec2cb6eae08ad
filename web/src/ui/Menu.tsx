import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';

/** A menu behind a button. */
export function Menu({
  trigger,
  label,
  items,
}: {
  trigger: ReactNode;
  label: string;
  items: readonly { label: string; run: () => void; danger?: boolean }[];
}) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger aria-label={label} asChild>
        {trigger}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={6}
          className="z-50 min-w-52 rounded-md border border-edge bg-panel p-1 text-ink"
        >
          {items.map((item) => (
            <DropdownMenu.Item
              key={item.label}
              onSelect={item.run}
              className={`flex min-h-11 cursor-pointer items-center rounded px-3 text-[14px] font-medium outline-none data-[highlighted]:bg-violet-tint ${item.danger ? 'text-bad' : ''}`}
            >
              {item.label}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
