import type { Lot } from '@wunsch/contract';

/** How full a lot still is, drawn as a sack. */
export function Sack({ lot }: { lot: Lot }) {
  const share = lot.arrivedMg > 0 ? lot.remainingMg / lot.arrivedMg : 0;
  return (
    <svg width="46" height="58" viewBox="0 0 46 58" aria-hidden="true" className="shrink-0">
      <clipPath id={`sack${lot.id}`}>
        <path d="M12 10q11 5 22 0l5 12q4 20-1 33H8Q3 42 7 22z" />
      </clipPath>
      <g clipPath={`url(#sack${lot.id})`}>
        <rect width="46" height="58" fill="var(--panel-2)" />
        <rect y={10 + 46 * (1 - share)} width="46" height={46 * share + 2} fill="var(--stage-beans)" />
      </g>
      <path
        d="M12 10q11 5 22 0l5 12q4 20-1 33H8Q3 42 7 22zM12 10l-2-7 6 3 7-4 7 4 6-3-2 7"
        fill="none"
        stroke="var(--ink-3)"
        strokeWidth="1.4"
        strokeLinejoin="round"
      />
    </svg>
  );
}
