import { useMemo, useRef } from 'react';
import type { BeanReading, RoastForecast, RoastPlan } from '@wunsch/core/roast';
import { useWidth } from '../../charts/useWidth.ts';
import { useWords } from '../../words/words.tsx';
import { ChartAxes } from './ChartAxes.tsx';
import { ChartCurves } from './ChartCurves.tsx';
import { Lane, type LaneMark } from './ChartLane.tsx';
import { LineNames } from './LineNames.tsx';
import { ReadingTable } from './ReadingTable.tsx';
import { StageHandles } from './StageHandles.tsx';
import { StageLane } from './StageLane.tsx';
import { MARGIN, roastScale, stagesOf } from './chartScale.ts';

/** What the roast chart draws. Times are seconds since beans-in, temperatures °C. */
export interface RoastChartProps {
  label: string;
  plan: RoastPlan | undefined;
  /** Lets stages be dragged and moved by keys. */
  onPlan?: (plan: RoastPlan) => void;
  bean: readonly BeanReading[];
  oven: readonly BeanReading[];
  /** Further probes, drawn thin. */
  others?: readonly (readonly BeanReading[])[];
  /** Earlier loads, drawn thin. */
  earlier?: readonly (readonly BeanReading[])[];
  corridor?: RoastForecast | null;
  forecast?: RoastForecast | null;
  /** Seconds since beans-in; null while nothing runs. */
  now: number | null;
  marks?: readonly LaneMark[];
  ceilingC?: number | null;
  height?: number;
}

/**
 * The roast room's chart: the plan's stages in a lane on top and as steps, the corridor the model expects, the bean and
 * the oven as measured, the forecast with its range, and what hands did in a lane below. White ground is known, grey is to come.
 */
export function RoastChart({
  label,
  plan,
  onPlan,
  bean,
  oven,
  others = [],
  earlier = [],
  corridor = null,
  forecast = null,
  now,
  marks = [],
  ceilingC = null,
  height = 330,
}: RoastChartProps) {
  const words = useWords();
  const { t } = words;
  const { ref, width } = useWidth<HTMLElement>(720);
  const svg = useRef<SVGSVGElement>(null);
  const stages = useMemo(() => stagesOf(plan, (name) => words.word('roast-stage', name)), [plan, words]);
  const scale = roastScale({ width, height, stages, measured: [bean, oven], earlier, now, ceilingC });
  const { x, y, inner, end, yHigh } = scale;
  const [left, top, bottom] = [MARGIN.left, MARGIN.top, MARGIN.top + inner.h];
  const current = now === null ? -1 : stages.findIndex((s) => now < s.to);
  const over = now !== null ? x(Math.min(now, end)) : null;
  return (
    <figure className="m-0" ref={ref}>
      <svg
        ref={svg}
        width={width}
        height={height}
        viewBox={`0 0 ${width} ${height}`}
        role={onPlan ? 'group' : 'img'}
        aria-label={label}
        className="block max-w-full touch-pan-y select-none overflow-visible"
      >
        {over !== null && (
          <rect
            x={over}
            y={top}
            width={Math.max(0, left + inner.w - over)}
            height={inner.h}
            fill="var(--panel-2)"
          />
        )}
        <ChartAxes scale={scale} words={words} />
        <StageLane stages={stages} x={x} current={current} now={now} words={words} />
        <ChartCurves
          scale={scale}
          stages={stages}
          bean={bean}
          oven={oven}
          others={others}
          earlier={earlier}
          corridor={corridor}
          forecast={forecast}
          now={now}
          ceilingC={ceilingC}
        />
        {ceilingC !== null && ceilingC < yHigh && (
          <text x={left + 6} y={y(ceilingC) - 5} fontSize="12" fill="var(--bad)">
            {t('roast.ceiling.line', { temperature: words.temperature(ceilingC, 0) })}
          </text>
        )}
        <LineNames
          bean={bean}
          oven={oven}
          corridor={corridor}
          earlier={earlier.filter((e) => e.length > 1)}
          x={x}
          y={y}
          now={now}
          end={end}
          stages={stages}
          words={words}
        />
        {over !== null && (
          <g>
            <line
              x1={over}
              x2={over}
              y1={top - 6}
              y2={bottom + 24}
              stroke="var(--violet-text)"
              strokeWidth="2"
            />
            {bean.length > 0 && (
              <circle
                cx={over}
                cy={y(bean.at(-1)!.celsius)}
                r="5"
                fill="var(--panel)"
                stroke="var(--violet-text)"
                strokeWidth="2.4"
              />
            )}
          </g>
        )}
        <Lane marks={marks} x={x} y0={bottom + 38} left={left} right={width} words={words} />
        {plan && onPlan && (
          <StageHandles plan={plan} stages={stages} onPlan={onPlan} scale={scale} svg={svg} words={words} />
        )}
      </svg>
      <ReadingTable bean={bean} oven={oven} forecast={forecast ?? corridor} label={label} />
    </figure>
  );
}
