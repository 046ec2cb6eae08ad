import type { Sign } from '@wunsch/core/faults';

const BAR = (
  <>
    <rect
      x="6"
      y="10"
      width="52"
      height="24"
      rx="3"
      className="fill-[var(--stage-mould)] stroke-[var(--stage-edge)]"
    />
    <path d="M23 10v24M41 10v24" className="stroke-[var(--stage-recipe)]" strokeWidth="1.6" />
  </>
);

const PALE = 'stroke-[#cfc3bb]';

/** A tongue, for what is felt and tasted. */
const TONGUE = (
  <path
    d="M14 8h36v12c0 12-8 19-18 19S14 32 14 20Z"
    className="fill-[#c77f77] stroke-[#8d4c46]"
    strokeWidth="1.4"
  />
);

/** What each sign looks like: a bar with it, or a tongue that meets it. */
const PICTURES: Readonly<Record<Sign, React.ReactNode>> = {
  streaks: (
    <>
      {BAR}
      <path
        d="M9 18c8-6 12 5 20-1s14 3 26-3M9 28c9-5 14 4 22-1s13 3 24-2"
        className={PALE}
        strokeWidth="1.8"
        fill="none"
      />
    </>
  ),
  bloom: (
    <>
      {BAR}
      <g className="fill-[#e9e1da] opacity-85">
        <ellipse cx="17" cy="20" rx="8" ry="5" />
        <ellipse cx="33" cy="27" rx="9" ry="5" />
        <ellipse cx="48" cy="18" rx="8" ry="5" />
      </g>
    </>
  ),
  sticks: (
    <>
      <path d="M4 18v20h56V18" className="fill-none stroke-slate" strokeWidth="2.4" />
      <path
        d="M9 12h46v14l-8 6-7-5-9 7-8-6-8 5-6-4Z"
        className="fill-[var(--stage-mould)] stroke-[var(--stage-edge)]"
      />
      <path d="M12 36l6-4M30 36l6-4" className="stroke-[var(--stage-recipe)]" strokeWidth="3" />
    </>
  ),
  soft: (
    <>
      <path
        d="M6 12h52v14c0 8-6 6-8 12-3-8-10-4-16-4S9 36 6 30Z"
        className="fill-[var(--stage-mould)] stroke-[var(--stage-edge)]"
      />
      <g className={PALE} fill="none" strokeWidth="1.3">
        <ellipse cx="32" cy="22" rx="9" ry="7" />
        <ellipse cx="32" cy="22" rx="5.5" ry="4" />
        <path d="M32 21v2" />
      </g>
    </>
  ),
  cracks: (
    <>
      {BAR}
      <path d="M30 9l5 8-7 6 6 5-3 7" className="fill-none stroke-panel" strokeWidth="3" />
    </>
  ),
  bubbles: (
    <>
      {BAR}
      <g className="fill-[var(--stage-recipe)] stroke-[#cfc3bb]" strokeWidth="1">
        <circle cx="15" cy="17" r="3" />
        <circle cx="30" cy="26" r="4" />
        <circle cx="36" cy="15" r="2" />
        <circle cx="49" cy="24" r="3.4" />
      </g>
    </>
  ),
  thick: (
    <>
      <path d="M6 10h34c8 0 10 4 10 8" className="fill-none stroke-slate" strokeWidth="3" />
      <path
        d="M14 11h26c4 8-3 9-4 16 0 5 3 6 1 11H20c-3-6 3-8 2-14-1-5-7-6-8-13Z"
        className="fill-[var(--stage-mould)] stroke-[var(--stage-edge)]"
      />
    </>
  ),
  seized: (
    <g className="fill-[var(--stage-mould)] stroke-[var(--stage-recipe)]" strokeWidth="1.4">
      <path d="M8 30l5-10 10-3 4 9-6 9Z" />
      <path d="M26 20l8-9 12 4-2 10-11 2Z" />
      <path d="M34 33l6-7 12-1 4 8-11 5Z" />
    </g>
  ),
  gritty: (
    <>
      {TONGUE}
      <g className="fill-[var(--stage-mould)]">
        {[22, 28, 34, 40, 25, 31, 37, 28, 34].map((x, i) => (
          <rect key={i} x={x} y={i < 4 ? 15 : i < 7 ? 21 : 27} width="2.6" height="2.6" />
        ))}
      </g>
    </>
  ),
  pasty: (
    <>
      {TONGUE}
      <path d="M17 12h30v9c-4 4-6-1-10 2s-6 3-10 0-7 2-10-2Z" className="fill-[var(--stage-mould)]" />
    </>
  ),
  sour: (
    <>
      {TONGUE}
      <path d="M22 14l4 7 4-7 4 7 4-7 4 7" className="fill-none stroke-signal" strokeWidth="3" />
    </>
  ),
  flat: (
    <>
      {TONGUE}
      <path d="M19 20h26" className="stroke-[#f4edea]" strokeWidth="3" />
    </>
  ),
  bitter: (
    <>
      {TONGUE}
      <path
        d="M20 14q12 8 24 0M21 21q11 7 22 0M24 28q8 5 16 0"
        className="fill-none stroke-[var(--stage-mould)]"
        strokeWidth="2.4"
      />
    </>
  ),
  smoky: (
    <>
      {BAR}
      <path
        d="M18 9c-5-4 3-4-1-9M32 9c-5-4 3-4-1-9M46 9c-5-4 3-4-1-9"
        className="fill-none stroke-slate"
        strokeWidth="2"
      />
    </>
  ),
  webbing: (
    <>
      {BAR}
      <path d="M6 10l26 12L58 10M6 34l26-12 26 12M32 10v24" className={PALE} strokeWidth="0.9" fill="none" />
      <path d="M20 16q12 6 24 0M16 29q16-8 32 0" className={PALE} strokeWidth="0.9" fill="none" />
      <circle cx="14" cy="22" r="2" className="fill-panel" />
      <circle cx="50" cy="27" r="2" className="fill-panel" />
    </>
  ),
};

/** A picture of a sign; its name stands beside it. */
export function SignPicture({ sign, width = 64 }: { sign: Sign; width?: number }) {
  return (
    <svg viewBox="0 -2 64 44" width={width} height={(width * 44) / 64} aria-hidden="true">
      {PICTURES[sign]}
    </svg>
  );
}
