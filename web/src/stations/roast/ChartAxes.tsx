import { celsiusOf } from '@wunsch/core/quantity';
import { MARGIN, minuteStep, ticks, type RoastScale, type Words } from './chartScale.ts';

/** The grid with its degrees at the left, in the person's unit, and its minutes below. */
export function ChartAxes({ scale, words }: { scale: RoastScale; words: Words }) {
  const { x, y, inner, end, yLow, yHigh } = scale;
  const [left, bottom] = [MARGIN.left, MARGIN.top + inner.h];
  const fahrenheit = words.temperatureUnit === '°F';
  const shown = words.degrees;
  const fromShown = (v: number) => celsiusOf(words.temperatureUnit, v);
  return (
    <g>
      {ticks(shown(yLow), shown(yHigh), fahrenheit ? 40 : 20).map((v) => (
        <g key={v}>
          <line
            x1={left}
            x2={left + inner.w}
            y1={y(fromShown(v))}
            y2={y(fromShown(v))}
            stroke="var(--line)"
            strokeDasharray="1 3"
          />
          <text x={left - 8} y={y(fromShown(v)) + 4} textAnchor="end" fontSize="12" fill="var(--ink-3)">
            {words.number(v)}
          </text>
        </g>
      ))}
      <text x={left - 8} y={MARGIN.top - 6} textAnchor="end" fontSize="12" fill="var(--ink-3)">
        {words.temperatureUnit}
      </text>
      <line x1={left} x2={left + inner.w} y1={bottom} y2={bottom} stroke="var(--line-2)" />
      {ticks(0, end / 60, minuteStep(end)).map((m) => (
        <g key={m}>
          <line x1={x(m * 60)} x2={x(m * 60)} y1={bottom} y2={bottom + 4} stroke="var(--line-2)" />
          <text x={x(m * 60)} y={bottom + 17} textAnchor="middle" fontSize="12" fill="var(--ink-3)">
            {m === 0 ? `0 ${words.t('unit.min')}` : m}
          </text>
        </g>
      ))}
    </g>
  );
}
