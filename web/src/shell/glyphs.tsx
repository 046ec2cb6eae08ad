import type { Station } from '@wunsch/core/ledger';
import type { ReactNode } from 'react';

/** Fill and outline of each stage; used only for cacao at that stage. */
export const STAGE: Record<Station, { fill: string; edge: string; text: string }> = {
  beans: { fill: 'var(--stage-beans)', edge: '#A79468', text: '#1E1512' },
  sort: { fill: 'var(--stage-sort)', edge: '#744568', text: '#FFFFFF' },
  roast: { fill: 'var(--stage-roast)', edge: '#A8794A', text: '#1E1512' },
  winnow: { fill: 'var(--stage-winnow)', edge: '#8E4C2C', text: '#FFFFFF' },
  recipe: { fill: 'var(--stage-recipe)', edge: '#83472B', text: '#FFFFFF' },
  grind: { fill: 'var(--stage-grind)', edge: 'var(--stage-edge)', text: '#FFFFFF' },
  temper: { fill: 'var(--stage-temper)', edge: 'var(--stage-edge)', text: '#FFFFFF' },
  mould: { fill: 'var(--stage-mould)', edge: 'var(--stage-edge)', text: '#FFFFFF' },
  taste: { fill: 'var(--stage-taste)', edge: '#8A6E22', text: '#1E1512' },
};

const DRAWN: Record<Station, (fill: string) => ReactNode> = {
  beans: (f) => (
    <>
      <ellipse cx="12" cy="12" rx="8.5" ry="6" transform="rotate(-35 12 12)" fill={f} />
      <path d="M6 16c4-1 4-6 12-8" />
    </>
  ),
  sort: (f) => (
    <>
      <path d="M3 6h18l-6 7v0H9z" fill={f} />
      <path d="M10 13v3l-4 4M14 13v3l4 4" />
    </>
  ),
  roast: (f) => (
    <>
      <rect x="4" y="3.5" width="16" height="17" rx="2" />
      <path d="M4 8h16" />
      <path d="M8 18v-4.5h8V18z" fill={f} />
    </>
  ),
  winnow: (f) => (
    <>
      <path d="M3 8c4-3 6 2 10-1M3 12c4-3 6 2 10-1" />
      <path d="M13 21l3-7 5 2z" fill={f} />
      <circle cx="18" cy="8" r="1.4" />
    </>
  ),
  recipe: (f) => (
    <>
      <circle cx="12" cy="12" r="8.5" />
      <path d="M12 3.5a8.5 8.5 0 1 1-8.5 8.5H12z" fill={f} />
    </>
  ),
  grind: (f) => (
    <>
      <circle cx="12" cy="12" r="8.5" />
      <circle cx="8.8" cy="12" r="3" fill={f} />
      <circle cx="15.2" cy="12" r="3" />
    </>
  ),
  temper: (f) => (
    <>
      <path d="M3 11h18a9 8 0 0 1-18 0z" fill={f} />
      <path d="M15 11V4.5a1.5 1.5 0 0 0-3 0V11" />
    </>
  ),
  mould: (f) => (
    <>
      <rect x="3.5" y="5" width="17" height="14" rx="1.5" />
      <rect x="6.5" y="8" width="5" height="8" fill={f} />
      <path d="M14.5 8h3v8h-3z" />
    </>
  ),
  taste: (f) => (
    <>
      <path d="M4 5h11v14H4z" />
      <path d="M4 5h5.5v7H4z" fill={f} />
      <path d="M9.500 5v14M4 12h11M18 5c3 4 3 10 0 14" />
    </>
  ),
};

/** The glyph of a station: outline, with exactly one part in its stage colour. */
export function Glyph({ station, size = 21 }: { station: Station; size?: number }) {
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 24 24"
      fill="none"
      stroke="currentColor"
      strokeWidth={1.4}
      strokeLinejoin="round"
      strokeLinecap="round"
      aria-hidden="true"
      className="shrink-0"
    >
      {DRAWN[station](STAGE[station].fill)}
    </svg>
  );
}

const WEIGHTS = [800, 720, 630, 540, 450, 360];

/** The name, thinning along the line as the beans do. */
export function Wordmark({ size = 29 }: { size?: number }) {
  return (
    <span
      className="font-head leading-none"
      style={{ fontSize: size, letterSpacing: '-0.035em' }}
      aria-label="wunsch"
      role="img"
    >
      {[...'wunsch'].map((letter, i) => (
        <span key={i} style={{ fontWeight: WEIGHTS[i] }} aria-hidden="true">
          {letter}
        </span>
      ))}
    </span>
  );
}
