import type { Scale, Stage, Words } from './chartScale.ts';

/** The stages in a lane on top: done tinted, the current one outlined, those to come dashed. */
export function StageLane({
  stages,
  x,
  current,
  now,
  words,
}: {
  stages: readonly Stage[];
  x: Scale;
  current: number;
  now: number | null;
  words: Words;
}) {
  return stages.map((s, i) => {
    const width = x(s.to) - x(s.from) - 2;
    const done = now !== null && (current < 0 || i < current);
    const text = `${s.name} ${words.temperature(s.setC, 0)}`;
    const room = Math.floor((width - 12) / 6.6);
    return (
      <g key={i}>
        <rect
          x={x(s.from)}
          y={4}
          width={Math.max(2, width)}
          height="24"
          rx="3"
          fill={done ? 'var(--violet-tint)' : 'var(--panel)'}
          stroke={i === current ? 'var(--violet-text)' : done ? 'none' : 'var(--line-2)'}
          strokeWidth={i === current ? 2 : 1}
          strokeDasharray={i === current || done ? undefined : '3 3'}
        />
        <text x={x(s.from) + 6} y={20} fontSize="12.5" fontWeight="600" fill="var(--ink)">
          {room >= text.length ? text : room >= 3 ? s.name.slice(0, room) : ''}
        </text>
      </g>
    );
  });
}
