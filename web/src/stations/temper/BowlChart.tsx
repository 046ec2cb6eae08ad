import { area as makeArea, line as makeLine } from 'd3-shape';
import { thin } from '@wunsch/core/readings';
import type { BowlReading, FollowedBowl, TemperPath, TriedFuture } from '@wunsch/core/temper';
import { useWidth } from '../../charts/useWidth.ts';
import { useWords } from '../../words/words.tsx';
import { Crystals } from './BowlCrystals.tsx';
import { Grid } from './BowlGrid.tsx';
import { LineNames, Name } from './BowlNames.tsx';
import { bowlScale, MARGIN } from './bowlScale.ts';
import type { BowlSeed } from './useBowl.ts';

const POINTS = 500;

/** What the bowl's chart draws. */
export interface BowlChartProps {
  readings: readonly BowlReading[];
  /** Corners of the path it is to take, minutes and °C. */
  plan: readonly { minutes: number; celsius: number }[];
  /** Which bowl of the batch it is, from 1. */
  nth: number;
  /** The bowls before it, drawn thin. */
  earlier: readonly (readonly BowlReading[])[];
  seeds: readonly BowlSeed[];
  followed: FollowedBowl | null;
  /** The future that is tried, drawn beside what is to come. */
  future: TriedFuture | null;
  path: TemperPath;
  /** False for chocolate that is not tempered: it has no window. */
  windowed: boolean;
  running: boolean;
}

/**
 * A bowl: its temperature with the plan and what is to come above, and on the same minutes the crystals in it below, estimated, each
 * as a range. White ground is known, grey is to come.
 */
export function BowlChart(props: BowlChartProps) {
  const { readings, plan, earlier, seeds, followed, future, path, windowed, running } = props;
  const words = useWords();
  const { t } = words;
  const { ref, width } = useWidth<HTMLElement>(640);
  const scale = bowlScale({
    width,
    height: 450,
    readings,
    plan,
    earlier,
    followed,
    path,
    unit: words.temperatureUnit,
  });
  const { x, upper, upperTop, upperBottom, lowerBottom, inner } = scale;
  const last = readings.at(-1);
  const now = last && running ? x(last.seconds / 60) : null;
  const right = MARGIN.left + inner.w;
  const course = (points: readonly { minutes: number; celsius: number }[]) =>
    makeLine<{ minutes: number; celsius: number }>(
      (p) => x(p.minutes),
      (p) => upper(p.celsius),
    )([...points]) ?? '';
  const read = (list: readonly BowlReading[]) =>
    course(
      thin(
        list.map((r) => ({ x: r.seconds / 60, y: r.celsius })),
        POINTS,
      ).map((p) => ({ minutes: p.x, celsius: p.y })),
    );
  const ahead = running ? (followed?.forecast ?? []) : [];
  return (
    <figure className="m-0" ref={ref}>
      <svg
        width={width}
        height={450}
        viewBox={`0 0 ${width} 450`}
        role="img"
        aria-label={t('temper.chart')}
        className="block max-w-full"
      >
        <clipPath id="bowl-upper">
          <rect x={MARGIN.left} y={upperTop} width={inner.w} height={inner.upper} />
        </clipPath>
        {now !== null && (
          <rect
            x={now}
            y={upperTop}
            width={Math.max(0, right - now)}
            height={lowerBottom - upperTop}
            fill="var(--panel-2)"
          />
        )}
        <Grid scale={scale} />
        {windowed && (
          <rect
            x={MARGIN.left}
            y={upper(path.windowHighC)}
            width={inner.w}
            height={upper(path.windowLowC) - upper(path.windowHighC)}
            fill="var(--ok-tint)"
          />
        )}
        <g clipPath="url(#bowl-upper)">
          {earlier.map((e, i) => (
            <path
              key={i}
              d={read(e)}
              fill="none"
              stroke="var(--violet-2)"
              strokeOpacity="0.5"
              strokeWidth="1"
            />
          ))}
          <path d={course(plan)} fill="none" stroke="var(--slate)" strokeWidth="1.6" strokeDasharray="5 3" />
          {ahead.length > 1 && (
            <>
              <path
                d={
                  makeArea<(typeof ahead)[number]>()
                    .x((p) => x(p.seconds / 60))
                    .y0((p) => upper(p.low))
                    .y1((p) => upper(p.high))(ahead) ?? ''
                }
                fill="var(--violet-text)"
                fillOpacity="0.2"
              />
              <path
                d={course(ahead.map((p) => ({ minutes: p.seconds / 60, celsius: p.celsius })))}
                fill="none"
                stroke="var(--violet-text)"
                strokeWidth="2"
                strokeDasharray="5 4"
              />
            </>
          )}
          {future && (
            <path
              d={course(future.seconds.map((s, i) => ({ minutes: s / 60, celsius: future.celsius[i]! })))}
              fill="none"
              stroke="var(--ink)"
              strokeWidth="1.4"
              strokeDasharray="2 3"
            />
          )}
          {readings.length > 1 && (
            <path d={read(readings)} fill="none" stroke="var(--violet-text)" strokeWidth="2.6" />
          )}
          {readings.length > 0 &&
            readings.length < 12 &&
            readings.map((r) => (
              <circle
                key={r.seconds}
                cx={x(r.seconds / 60)}
                cy={upper(r.celsius)}
                r="4"
                fill="var(--violet-text)"
              />
            ))}
        </g>
        <Crystals scale={scale} followed={followed} future={future} now={now} />
        {seeds.map((s) => (
          <g key={s.seconds}>
            <path
              d={`M${x(s.seconds / 60)} ${upperTop + 4}V${upperBottom}`}
              stroke="var(--ink-3)"
              strokeDasharray="2 2"
            />
            <Name x={x(s.seconds / 60) + 5} y={upperTop + 15} width={width}>
              {t('temper.seed-in', { mass: words.mass(s.massMg) })}
            </Name>
          </g>
        ))}
        <LineNames {...props} scale={scale} />
        {now !== null && last && (
          <g>
            <path d={`M${now} ${upperTop - 6}V${lowerBottom}`} stroke="var(--violet-text)" strokeWidth="2" />
            <circle
              cx={now}
              cy={upper(last.celsius)}
              r="5"
              fill="var(--panel)"
              stroke="var(--violet-text)"
              strokeWidth="2.4"
            />
          </g>
        )}
      </svg>
    </figure>
  );
}
