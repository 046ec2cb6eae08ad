import type { ButtonHTMLAttributes, ReactNode } from 'react';

type Look = 'main' | 'plain' | 'quiet' | 'danger' | 'signal';

const LOOKS: Record<Look, string> = {
  main: 'bg-violet text-white border-violet hover:bg-violet-2 hover:border-violet-2',
  plain: 'bg-panel text-ink border-edge hover:bg-panel-2',
  quiet: 'bg-transparent text-ink border-transparent hover:bg-violet-tint',
  danger: 'bg-panel text-bad border-bad hover:bg-bad-tint',
  signal: 'bg-signal text-on-signal border-signal hover:brightness-95',
};

/** Anything that acts when pressed. The verb on it says the act. */
export function Button({
  look = 'plain',
  big = false,
  icon,
  className = '',
  children,
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { look?: Look; big?: boolean; icon?: ReactNode }) {
  const size = big ? 'min-h-12 px-5 text-[15px]' : 'min-h-11 px-4 text-[13.5px]';
  return (
    <button
      type="button"
      className={`inline-flex items-center justify-center gap-2 rounded border font-semibold disabled:opacity-55 ${size} ${LOOKS[look]} ${className}`}
      {...rest}
    >
      {icon}
      {children}
    </button>
  );
}
