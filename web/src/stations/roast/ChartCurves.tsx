import { line as makeLine, area as makeArea } from 'd3-shape';
import { thin } from '@wunsch/core/readings';
import type { BeanReading, RoastForecast } from '@wunsch/core/roast';
import { MARGIN, type RoastScale, type Stage } from './chartScale.ts';

/** Most points one line is drawn with. */
const POINTS = 500;

type ForecastLine = RoastForecast['line'];

/** Everything inside the plot: corridor, plan as steps, earlier loads, oven, forecast with its range, bean. */
export function ChartCurves({
  scale,
  stages,
  bean,
  oven,
  others,
  earlier,
  corridor,
  forecast,
  now,
  ceilingC,
}: {
  scale: RoastScale;
  stages: readonly Stage[];
  bean: readonly BeanReading[];
  oven: readonly BeanReading[];
  others: readonly (readonly BeanReading[])[];
  earlier: readonly (readonly BeanReading[])[];
  corridor: RoastForecast | null;
  forecast: RoastForecast | null;
  now: number | null;
  ceilingC: number | null;
}) {
  const { x, y, inner, yHigh } = scale;
  const path = (readings: readonly BeanReading[]) =>
    makeLine<{ x: number; y: number }>(
      (p) => x(p.x),
      (p) => y(p.y),
    )(
      thin(
        readings.map((r) => ({ x: r.seconds, y: r.celsius })),
        POINTS,
      ),
    ) ?? '';
  const band = (line: ForecastLine) =>
    makeArea<ForecastLine[number]>()
      .x((p) => x(p.seconds))
      .y0((p) => y(p.low))
      .y1((p) => y(p.high))(line) ?? '';
  const median = (line: ForecastLine) => (
    <path
      d={
        makeLine<ForecastLine[number]>(
          (p) => x(p.seconds),
          (p) => y(p.median),
        )(line) ?? ''
      }
      fill="none"
      stroke="var(--violet-text)"
      strokeWidth="2"
      strokeDasharray="5 4"
    />
  );
  const ahead = forecast && now !== null ? forecast.line.filter((p) => p.seconds >= now - 1) : [];
  return (
    <>
      <clipPath id="roast-plot">
        <rect x={MARGIN.left} y={MARGIN.top} width={inner.w} height={inner.h} />
      </clipPath>
      <g clipPath="url(#roast-plot)">
        {corridor && (
          <path
            d={band(corridor.line)}
            fill="var(--line)"
            fillOpacity="0.55"
            stroke="var(--line-2)"
            strokeWidth="1"
          />
        )}
        {ceilingC !== null && ceilingC < yHigh && (
          <line
            x1={MARGIN.left}
            x2={MARGIN.left + inner.w}
            y1={y(ceilingC)}
            y2={y(ceilingC)}
            stroke="var(--bad)"
            strokeDasharray="6 4"
          />
        )}
        {stages.length > 0 && (
          <path
            d={stages
              .map((s, i) => `${i === 0 ? 'M' : 'L'}${x(s.from)} ${y(s.setC)}L${x(s.to)} ${y(s.setC)}`)
              .join('')}
            fill="none"
            stroke="var(--slate)"
            strokeWidth="1.6"
            strokeDasharray="5 3"
          />
        )}
        {earlier.map((e, i) => (
          <path
            key={i}
            d={path(e)}
            fill="none"
            stroke="var(--violet-2)"
            strokeOpacity="0.55"
            strokeWidth="1"
          />
        ))}
        {others.map((e, i) => (
          <path key={i} d={path(e)} fill="none" stroke="var(--slate)" strokeOpacity="0.6" strokeWidth="1" />
        ))}
        {oven.length > 1 && <path d={path(oven)} fill="none" stroke="var(--slate)" strokeWidth="1.8" />}
        {ahead.length > 1 && (
          <>
            <path d={band(ahead)} fill="var(--violet-text)" fillOpacity="0.2" />
            {median(ahead)}
          </>
        )}
        {now === null && corridor && bean.length === 0 && median(corridor.line)}
        {bean.length > 1 && <path d={path(bean)} fill="none" stroke="var(--violet-text)" strokeWidth="2.6" />}
        {bean.length > 0 &&
          bean.length < 25 &&
          bean.map((r) => (
            <circle key={r.seconds} cx={x(r.seconds)} cy={y(r.celsius)} r="4" fill="var(--violet-text)" />
          ))}
      </g>
    </>
  );
}
