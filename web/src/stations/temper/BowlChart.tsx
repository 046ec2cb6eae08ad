import { area as makeArea, line as makeLine } from 'd3-shape';
import { thin } from '@wunsch/core/readings';
import {
  VERDICT_LIMITS,
  type BowlReading,
  type FollowedBowl,
  type TemperPath,
  type TriedFuture,
} from '@wunsch/core/temper';
import { useWidth } from '../../charts/useWidth.ts';
import { useWords } from '../../words/words.tsx';
import { bowlScale, MARGIN, MOST_SHARE, type BowlScale } from './bowlScale.ts';
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
  const scale = bowlScale({ width, height: 450, readings, plan, earlier, followed, path });
  const { x, upper, upperTop, upperBottom, lowerBottom, inner } = scale;
  const last = readings.at(-1);
  const now = last && running ? x(last.seconds / 60) : null;
  const right = MARGIN.left + inner.w;
  const fahrenheit = words.temperatureUnit === '°F';
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
        <Grid scale={scale} fahrenheit={fahrenheit} />
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

/** Both grids, with degrees, shares and the minutes they have in common. */
function Grid({ scale, fahrenheit }: { scale: BowlScale; fahrenheit: boolean }) {
  const words = useWords();
  const { x, upper, lower, inner, minutes, degrees, lowerBottom, lowerTop, upperTop } = scale;
  const right = MARGIN.left + inner.w;
  const degreeStep = (degrees.max - degrees.min) / degrees.ticks;
  const minuteStep = (minutes.max - minutes.min) / minutes.ticks;
  const line = (y: number) => (
    <line x1={MARGIN.left} x2={right} y1={y} y2={y} stroke="var(--line)" strokeDasharray="1 3" />
  );
  return (
    <g fontSize="12" fill="var(--ink-3)">
      {Array.from({ length: degrees.ticks + 1 }, (_, i) => degrees.min + i * degreeStep).map((c) => (
        <g key={c}>
          {line(upper(c))}
          <text x={MARGIN.left - 8} y={upper(c) + 4} textAnchor="end">
            {words.number(fahrenheit ? c * 1.8 + 32 : c, fahrenheit || degrees.decimals === 0 ? 0 : 1)}
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

/** The crystals of the bowl: stable ones as a filled range, unstable ones hatched on their own line, against the band a bowl is ready in. */
function Crystals({
  scale,
  followed,
  future,
  now,
}: {
  scale: BowlScale;
  followed: FollowedBowl | null;
  future: TriedFuture | null;
  now: number | null;
}) {
  const { t } = useWords();
  const { x, lower, inner, lowerTop, lowerBottom } = scale;
  const right = MARGIN.left + inner.w;
  const [from, to] = (followed?.readyBetween ?? [VERDICT_LIMITS.ready, VERDICT_LIMITS.full]).map(
    (s) => s * 100,
  ) as [number, number];
  const crystals = followed?.crystals;
  const first = crystals ? firstMelted(crystals) : 0;
  const at = crystals ? [...crystals.minutes].map((m, k) => ({ m, k })).slice(first) : [];
  const band = (of: { low: Float64Array; high: Float64Array }) =>
    makeArea<{ m: number; k: number }>()
      .x((p) => x(p.m))
      .y0((p) => lower(of.low[p.k]! * 100))
      .y1((p) => lower(of.high[p.k]! * 100))(at) ?? '';
  const middle = (of: { middle: Float64Array }) =>
    makeLine<{ m: number; k: number }>(
      (p) => x(p.m),
      (p) => lower(of.middle[p.k]! * 100),
    )(at) ?? '';
  return (
    <g>
      <defs>
        <pattern
          id="unstable-hatch"
          width="5"
          height="5"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <path d="M0 0V5" stroke="var(--bad)" strokeWidth="1.6" />
        </pattern>
        <clipPath id="bowl-lower">
          <rect x={MARGIN.left} y={lowerTop} width={inner.w} height={lowerBottom - lowerTop} />
        </clipPath>
      </defs>
      <rect
        x={MARGIN.left}
        y={lower(to)}
        width={inner.w}
        height={lower(from) - lower(to)}
        fill="var(--ok-tint)"
      />
      <text x={right - 4} y={lower(to) - 4} textAnchor="end" fontSize="12" fill="var(--ok)">
        {t('crystals.ready-band')}
      </text>
      {crystals && (
        <g clipPath="url(#bowl-lower)">
          {at.some(({ k }) => crystals.unstable.high[k]! > 0.001) && (
            <>
              <path d={band(crystals.unstable)} fill="url(#unstable-hatch)" fillOpacity="0.7" />
              <path d={middle(crystals.unstable)} fill="none" stroke="var(--bad)" strokeWidth="1.4" />
            </>
          )}
          <path d={band(crystals.stable)} fill="var(--violet-text)" fillOpacity="0.26" />
          <path d={middle(crystals.stable)} fill="none" stroke="var(--violet-text)" strokeWidth="2.2" />
          {future && (
            <path
              d={
                makeLine<number>(
                  (i) => x(future.seconds[i]! / 60),
                  (i) => lower(future.stable[i]! * 100),
                )(future.seconds.map((_, i) => i)) ?? ''
              }
              fill="none"
              stroke="var(--ink)"
              strokeWidth="1.4"
              strokeDasharray="2 3"
            />
          )}
        </g>
      )}
      {!crystals && now === null && (
        <text
          x={MARGIN.left + inner.w / 2}
          y={lowerTop + 26}
          textAnchor="middle"
          fontSize="12.5"
          fill="var(--ink-3)"
        >
          {t('crystals.none')}
        </text>
      )}
    </g>
  );
}

/** Where a bowl that came in solid has melted: its old crystals are no temper, and are not drawn. */
function firstMelted({ stable }: FollowedBowl['crystals']): number {
  if (stable.middle[0]! < 0.1) return 0;
  const at = stable.high.findIndex((s) => s < 0.002);
  return at < 0 ? stable.middle.length : at;
}

/** Text with a rim in the ground's colour, kept inside the plot. */
function Name({ x, y, width, children }: { x: number; y: number; width: number; children: string }) {
  const room = children.length * 6.6;
  return (
    <text
      x={Math.max(MARGIN.left + 2, Math.min(x, width - MARGIN.right - room))}
      y={y}
      fontSize="12.5"
      fill="var(--ink-2)"
      stroke="var(--panel)"
      strokeWidth="4"
      strokeLinejoin="round"
      style={{ paintOrder: 'stroke' }}
    >
      {children}
    </text>
  );
}

/** Names beside the lines instead of a legend. */
function LineNames({
  readings,
  plan,
  earlier,
  nth,
  followed,
  path,
  windowed,
  scale,
}: BowlChartProps & { scale: BowlScale }) {
  const { t } = useWords();
  const { x, upper, lower, width, inner } = scale;
  const melted = plan[1];
  const half = (path.meltC + path.coolC) / 2;
  const rising = readings.find((r) => r.celsius >= half) ?? readings[0];
  const k = followed ? followed.crystals.minutes.findIndex((m) => m * 60 >= followed.at) : -1;
  const unstable = followed && k >= 0 ? followed.crystals.unstable.middle.slice(0, k + 1) : null;
  const most = unstable ? unstable.indexOf(Math.max(...unstable)) : -1;
  return (
    <g>
      {rising && readings.length > 2 ? (
        <Name x={x(rising.seconds / 60) + 12} y={upper(rising.celsius) + 4} width={width}>
          {t('temper.bowl.line')}
        </Name>
      ) : (
        melted && (
          <Name x={x(melted.minutes) + 8} y={upper(melted.celsius) - 8} width={width}>
            {t('temper.plan')}
          </Name>
        )
      )}
      {earlier.map((e, i) => {
        const later = e.slice(Math.floor(e.length / 2));
        const coldest = later.reduce((c, r) => (r.celsius < c.celsius ? r : c), e.at(-1)!);
        return (
          <Name key={i} x={x(coldest.seconds / 60) - 20} y={upper(coldest.celsius) + 15} width={width}>
            {t('temper.earlier', { n: nth - earlier.length + i })}
          </Name>
        );
      })}
      {windowed && (
        <Name
          x={MARGIN.left + inner.w - t('window').length * 7}
          y={upper(path.windowHighC) - 4}
          width={width}
        >
          {t('window')}
        </Name>
      )}
      {followed && k > 3 && (
        <Name x={x(followed.at / 60) - 52} y={lower(followed.stableNow.high * 100) - 8} width={width}>
          {t('crystals.stable')}
        </Name>
      )}
      {followed && unstable && most > 0 && unstable[most]! > 0.004 && (
        <Name
          x={x(followed.crystals.minutes[most]!) - 40}
          y={Math.max(scale.lowerTop + 10, lower(unstable[most]! * 100) - 6)}
          width={width}
        >
          {t('crystals.unstable')}
        </Name>
      )}
    </g>
  );
}
