import { useWords } from '../../words/words.tsx';
import { MARGIN, MOST_SHARE, type BowlScale } from './bowlScale.ts';

/** Both grids, with degrees, shares and the minutes they have in common. */
export function Grid({ scale }: { scale: BowlScale }) {
  const words = useWords();
  const { x, upper, lower, inner, minutes, degrees, lowerBottom, lowerTop, upperTop } = scale;
  const right = MARGIN.left + inner.w;
  const minuteStep = (minutes.max - minutes.min) / minutes.ticks;
  const line = (y: number) => (
    <line x1={MARGIN.left} x2={right} y1={y} y2={y} stroke="var(--line)" strokeDasharray="1 3" />
  );
  return (
    <g fontSize="12" fill="var(--ink-3)">
      {degrees.map(({ celsius, written }) => (
        <g key={written}>
          {line(upper(celsius))}
          <text x={MARGIN.left - 8} y={upper(celsius) + 4} textAnchor="end">
            {words.number(written, Number.isInteger(written) ? 0 : 1)}
          </text>
        </g>
      ))}
      <text x={MARGIN.left - 8} y={upperTop - 10} textAnchor="end">
        {words.temperatureUnit}
      </text>
      {Array.from({ length: MOST_SHARE / 2 + 1 }, (_, i) => 2 * i).map((percent) => (
        <g key={percent}>
          {line(lower(percent))}
          <text x={MARGIN.left - 8} y={lower(percent) + 4} textAnchor="end">
            {percent === MOST_SHARE ? `${percent} %` : percent}
          </text>
        </g>
      ))}
      <text x={MARGIN.left} y={lowerTop - 12} fontSize="13.5" fontWeight="600" fill="var(--ink)">
        {words.t('crystals.title')}
      </text>
      <line x1={MARGIN.left} x2={right} y1={lowerBottom} y2={lowerBottom} stroke="var(--line-2)" />
      {Array.from({ length: minutes.ticks + 1 }, (_, i) => minutes.min + i * minuteStep).map((m) => (
        <g key={m}>
          <line x1={x(m)} x2={x(m)} y1={lowerBottom} y2={lowerBottom + 4} stroke="var(--line-2)" />
          <text x={x(m)} y={lowerBottom + 17} textAnchor="middle">
            {m === 0 ? `0 ${words.t('unit.min')}` : words.number(m, minutes.decimals)}
          </text>
        </g>
      ))}
    </g>
  );
}
