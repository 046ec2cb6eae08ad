import type { Scale, Words } from './chartScale.ts';

/** A mark in the lane below: what a hand did, what is due, or what is planned. */
export interface LaneMark {
  seconds: number;
  text: string;
  due?: boolean;
  planned?: boolean;
}

/** What hands did and what is due, in a lane below; texts that would overlap are left to the table. */
export function Lane({
  marks,
  x,
  y0,
  left,
  right,
  words,
}: {
  marks: readonly LaneMark[];
  x: Scale;
  y0: number;
  left: number;
  right: number;
  words: Words;
}) {
  const sorted = [...marks].sort((a, b) => a.seconds - b.seconds);
  const clock = (s: number) => `+${Math.floor(s / 60)}:${String(Math.floor(s % 60)).padStart(2, '0')}`;
  const texts = sorted.map((m) => `${m.text} ${m.due || m.planned ? '' : clock(m.seconds)}`.trim());
  return (
    <g>
      {sorted.length === 0 && (
        <text x={left} y={y0 + 4} fontSize="12" fill="var(--ink-3)">
          {words.t('roast.lane.empty')}
        </text>
      )}
      {sorted.map((m, i) => {
        const at = x(m.seconds);
        const next = sorted[i + 1];
        const room = (next ? x(next.seconds) - 6 : right) - at - 10;
        return (
          <g key={`${m.seconds} ${m.text}`}>
            {m.due ? (
              <rect
                x={at - 6}
                y={y0 - 6}
                width="12"
                height="12"
                transform={`rotate(45 ${at} ${y0})`}
                fill="var(--signal)"
                stroke="var(--ink)"
              />
            ) : (
              <circle
                cx={at}
                cy={y0}
                r="4"
                fill={m.planned ? 'var(--panel)' : 'var(--ink)'}
                stroke={m.planned ? 'var(--ink-3)' : 'var(--ink)'}
                strokeWidth="1.4"
              />
            )}
            {room > texts[i]!.length * 6 && (
              <text x={at + 10} y={y0 + 4} fontSize="12" fill="var(--ink-2)" fontWeight={m.due ? 700 : 400}>
                {texts[i]}
              </text>
            )}
            <title>{texts[i]}</title>
          </g>
        );
      })}
    </g>
  );
}
