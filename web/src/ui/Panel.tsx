import type { ReactNode } from 'react';

/** A panel with its heading and, at the right, what belongs to it. */
export function Panel({
  title,
  aside,
  children,
  className = '',
  level = 2,
}: {
  title?: ReactNode;
  aside?: ReactNode;
  children: ReactNode;
  className?: string;
  level?: 2 | 3;
}) {
  const Heading = `h${level}` as const;
  return (
    <section className={`panel min-w-0 p-4 ${className}`}>
      {(title || aside) && (
        <header className="mb-3 flex flex-wrap items-center justify-between gap-x-4 gap-y-2">
          {title && <Heading className="text-[18px] leading-tight">{title}</Heading>}
          {aside && <div className="text-[12.5px] text-ink-3">{aside}</div>}
        </header>
      )}
      {children}
    </section>
  );
}

/** A screen with nothing on it yet says what goes there and offers the first step. */
export function EmptyState({
  title,
  children,
  action,
  isPage = false,
}: {
  title: string;
  children: ReactNode;
  action?: ReactNode;
  /** Whether the page has no other heading. */
  isPage?: boolean;
}) {
  const Heading = isPage ? 'h1' : 'h2';
  return (
    <div className="panel mx-auto my-6 max-w-xl p-8 text-center">
      <Heading className="text-[20px]">{title}</Heading>
      <p className="mx-auto mt-2 max-w-md text-[14px] text-ink-2">{children}</p>
      {action && <div className="mt-5 flex justify-center gap-2">{action}</div>}
    </div>
  );
}

/** A figure with its name over it. */
export function Figure({ name, children, note }: { name: ReactNode; children: ReactNode; note?: ReactNode }) {
  return (
    <div className="min-w-0">
      <div className="text-[12px] text-ink-3">{name}</div>
      <div className="num text-[20px] leading-tight">{children}</div>
      {note && <div className="text-[12px] text-ink-3">{note}</div>}
    </div>
  );
}

/** A small mark in words: in range, out of range, or plain. Never colour alone. */
export function Chip({
  tone = 'plain',
  children,
}: {
  tone?: 'plain' | 'ok' | 'bad' | 'due';
  children: ReactNode;
}) {
  const looks = {
    plain: 'bg-violet-tint text-ink',
    ok: 'bg-ok-tint text-ok',
    bad: 'bg-bad-tint text-bad',
    due: 'bg-signal text-on-signal',
  };
  const marks = { plain: '', ok: '✓ ', bad: '▲ ', due: '' };
  return (
    <span
      className={`inline-flex items-center rounded-[3px] px-2 py-0.5 text-[12px] font-semibold ${looks[tone]}`}
    >
      <span aria-hidden="true" className="whitespace-pre">
        {marks[tone]}
      </span>
      {children}
    </span>
  );
}
