import { line as makeLine, area as makeArea } from 'd3-shape';
import { useMemo, useRef, type KeyboardEvent, type PointerEvent } from 'react';
import type { BeanReading, RoastForecast, RoastPlan } from '@wunsch/core/roast';
import { thin } from '@wunsch/core/readings';
import { useWidth } from '../../charts/useWidth.ts';
import { useWords } from '../../words/words.tsx';

/** A mark in the lane below: what a hand did, or what is due. */
export interface LaneMark {
  seconds: number;
  text: string;
  due?: boolean;
}

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

const LEFT = 44;
const RIGHT = 14;
const TOP = 36;
const BOTTOM = 52;
const POINTS = 500;
const DEGREE_STEP = 1;
const MINUTE_STEP = 0.25;

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
  corridor,
  forecast,
  now,
  marks = [],
  ceilingC,
  height = 330,
}: RoastChartProps) {
  const words = useWords();
  const { t } = words;
  const { ref, width } = useWidth<HTMLElement>(720);
  const svg = useRef<SVGSVGElement>(null);
  const total = plan ? plan.stages.reduce((s, x) => s + x.minutes, 0) * 60 : 0;
  const end =
    Math.max(total, bean.at(-1)?.seconds ?? 0, now ?? 0, 300, ...earlier.map((e) => e.at(-1)?.seconds ?? 0)) *
    1.03;
  const highest = Math.max(
    130,
    ...(plan?.stages.map((s) => s.setC + 8) ?? []),
    ...bean.filter((_, i) => i % 5 === 0).map((r) => r.celsius + 6),
    ...oven.filter((_, i) => i % 5 === 0).map((r) => r.celsius + 6),
    ...(ceilingC && plan && Math.max(...plan.stages.map((s) => s.setC)) > ceilingC - 16
      ? [ceilingC + 4]
      : []),
  );
  const [yLow, yHigh] = [40, Math.min(320, Math.ceil(highest / 10) * 10)];
  const inner = { w: Math.max(200, width - LEFT - RIGHT), h: height - TOP - BOTTOM };
  const x = (seconds: number) => LEFT + (seconds / end) * inner.w;
  const y = (celsius: number) =>
    TOP + inner.h - ((Math.min(Math.max(celsius, yLow - 20), yHigh + 20) - yLow) / (yHigh - yLow)) * inner.h;
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
  const band = (line: RoastForecast['line']) =>
    makeArea<RoastForecast['line'][number]>()
      .x((p) => x(p.seconds))
      .y0((p) => y(p.low))
      .y1((p) => y(p.high))(line) ?? '';
  const stages = useMemo(() => {
    let at = 0;
    return (plan?.stages ?? []).map((s) => {
      const from = at;
      at += s.minutes * 60;
      return { ...s, from, to: at };
    });
  }, [plan]);
  const ahead = forecast && now !== null ? forecast.line.filter((p) => p.seconds >= now - 1) : [];
  const change = (index: number, part: { setC?: number; minutes?: number }) => {
    if (!plan || !onPlan) return;
    onPlan({
      ...plan,
      stages: plan.stages.map((s, i) =>
        i === index
          ? {
              ...s,
              ...(part.setC !== undefined && { setC: Math.min(260, Math.max(40, Math.round(part.setC))) }),
              ...(part.minutes !== undefined && {
                minutes: Math.min(240, Math.max(0.5, Math.round(part.minutes / MINUTE_STEP) * MINUTE_STEP)),
              }),
            }
          : s,
      ),
    });
  };
  const toPlan = (event: PointerEvent) => {
    const box = svg.current!.getBoundingClientRect();
    const scale = width / box.width;
    return {
      seconds: (((event.clientX - box.left) * scale - LEFT) / inner.w) * end,
      celsius: yLow + ((TOP + inner.h - (event.clientY - box.top) * scale) / inner.h) * (yHigh - yLow),
    };
  };
  const drag = (index: number, what: 'end' | 'level') => ({
    onPointerDown: (e: PointerEvent<SVGElement>) => {
      e.preventDefault();
      e.currentTarget.setPointerCapture(e.pointerId);
      e.currentTarget.focus();
    },
    onPointerMove: (e: PointerEvent<SVGElement>) => {
      if (!e.currentTarget.hasPointerCapture(e.pointerId)) return;
      const at = toPlan(e);
      if (what === 'level') change(index, { setC: at.celsius });
      else change(index, { minutes: (at.seconds - stages[index]!.from) / 60 });
    },
  });
  const keys = (index: number, what: 'end' | 'level') => (e: KeyboardEvent) => {
    const by = e.shiftKey ? 5 : 1;
    const up = e.key === 'ArrowUp' || e.key === 'ArrowRight';
    const down = e.key === 'ArrowDown' || e.key === 'ArrowLeft';
    if (!up && !down) return;
    e.preventDefault();
    e.stopPropagation();
    const sign = up ? by : -by;
    const s = plan!.stages[index]!;
    if (what === 'level') change(index, { setC: s.setC + sign * DEGREE_STEP });
    else change(index, { minutes: s.minutes + sign * MINUTE_STEP });
  };
  const minuteTick = [1, 2, 5, 10, 20, 30, 60].find((m) => end / 60 / m <= 8) ?? 60;
  const fahrenheit = words.temperatureUnit === '°F';
  const shown = (c: number) => (fahrenheit ? c * 1.8 + 32 : c);
  const degreeTicks = ticks(shown(yLow), shown(yHigh), fahrenheit ? 40 : 20);
  const fromShown = (v: number) => (fahrenheit ? (v - 32) / 1.8 : v);
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
            y={TOP}
            width={Math.max(0, LEFT + inner.w - over)}
            height={inner.h}
            fill="var(--panel-2)"
          />
        )}
        {degreeTicks.map((v) => (
          <g key={v}>
            <line
              x1={LEFT}
              x2={LEFT + inner.w}
              y1={y(fromShown(v))}
              y2={y(fromShown(v))}
              stroke="var(--line)"
              strokeDasharray="1 3"
            />
            <text x={LEFT - 8} y={y(fromShown(v)) + 4} textAnchor="end" fontSize="12" fill="var(--ink-3)">
              {words.number(v)}
            </text>
          </g>
        ))}
        <text x={LEFT - 8} y={TOP - 6} textAnchor="end" fontSize="12" fill="var(--ink-3)">
          {words.temperatureUnit}
        </text>
        <line x1={LEFT} x2={LEFT + inner.w} y1={TOP + inner.h} y2={TOP + inner.h} stroke="var(--line-2)" />
        {Array.from({ length: Math.floor(end / 60 / minuteTick) + 1 }, (_, i) => i * minuteTick).map((m) => (
          <g key={m}>
            <line
              x1={x(m * 60)}
              x2={x(m * 60)}
              y1={TOP + inner.h}
              y2={TOP + inner.h + 4}
              stroke="var(--line-2)"
            />
            <text x={x(m * 60)} y={TOP + inner.h + 17} textAnchor="middle" fontSize="12" fill="var(--ink-3)">
              {m === 0 ? `0 ${t('unit.min')}` : m}
            </text>
          </g>
        ))}
        <StageLane stages={stages} x={x} current={current} now={now} words={words} />
        <clipPath id="roast-plot">
          <rect x={LEFT} y={TOP} width={inner.w} height={inner.h} />
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
          {ceilingC && ceilingC < yHigh && (
            <line
              x1={LEFT}
              x2={LEFT + inner.w}
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
              <path
                d={
                  makeLine<RoastForecast['line'][number]>(
                    (p) => x(p.seconds),
                    (p) => y(p.median),
                  )(ahead) ?? ''
                }
                fill="none"
                stroke="var(--violet-text)"
                strokeWidth="2"
                strokeDasharray="5 4"
              />
            </>
          )}
          {now === null && corridor && bean.length === 0 && (
            <path
              d={
                makeLine<RoastForecast['line'][number]>(
                  (p) => x(p.seconds),
                  (p) => y(p.median),
                )(corridor.line) ?? ''
              }
              fill="none"
              stroke="var(--violet-text)"
              strokeWidth="2"
              strokeDasharray="5 4"
            />
          )}
          {bean.length > 1 && (
            <path d={path(bean)} fill="none" stroke="var(--violet-text)" strokeWidth="2.6" />
          )}
          {bean.length > 0 &&
            bean.length < 25 &&
            bean.map((r) => (
              <circle key={r.seconds} cx={x(r.seconds)} cy={y(r.celsius)} r="4" fill="var(--violet-text)" />
            ))}
        </g>
        {ceilingC && ceilingC < yHigh && (
          <text x={LEFT + 6} y={y(ceilingC) - 5} fontSize="12" fill="var(--bad)">
            {t('roast.ceiling.line', { temperature: words.temperature(ceilingC, 0) })}
          </text>
        )}
        <LineNames
          bean={bean}
          oven={oven}
          corridor={corridor ?? null}
          x={x}
          y={y}
          now={now}
          end={end}
          stages={stages}
          words={words}
        />
        {now !== null && over !== null && (
          <g>
            <line
              x1={over}
              x2={over}
              y1={TOP - 6}
              y2={TOP + inner.h + 24}
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
        <Lane marks={marks} x={x} y0={TOP + inner.h + 38} left={LEFT} words={words} />
        {onPlan &&
          stages.map((s, i) => (
            <g key={i}>
              <rect
                x={x(s.from) + 8}
                y={y(s.setC) - 11}
                width={Math.max(10, x(s.to) - x(s.from) - 22)}
                height="22"
                fill="transparent"
                className="cursor-ns-resize focus-visible:outline-2"
                role="slider"
                tabIndex={0}
                aria-label={t('roast.drag.level', { name: s.name })}
                aria-orientation="vertical"
                aria-valuemin={40}
                aria-valuemax={260}
                aria-valuenow={Math.round(s.setC)}
                aria-valuetext={words.temperature(s.setC, 0)}
                style={{ touchAction: 'none' }}
                onKeyDown={keys(i, 'level')}
                {...drag(i, 'level')}
              />
              <rect
                x={x(s.to) - 12}
                y={TOP - 28}
                width="24"
                height={inner.h + 28}
                fill="transparent"
                className="cursor-ew-resize"
                role="slider"
                tabIndex={0}
                aria-label={t('roast.drag.end', { name: s.name })}
                aria-valuemin={0.5}
                aria-valuemax={240}
                aria-valuenow={s.minutes}
                aria-valuetext={words.duration(s.minutes * 60)}
                style={{ touchAction: 'none' }}
                onKeyDown={keys(i, 'end')}
                {...drag(i, 'end')}
              />
              <line
                x1={x(s.to)}
                x2={x(s.to)}
                y1={TOP}
                y2={TOP + inner.h}
                stroke="var(--slate)"
                strokeDasharray="2 3"
                pointerEvents="none"
              />
              <circle
                cx={x(s.to)}
                cy={y(s.setC)}
                r="5"
                fill="var(--panel)"
                stroke="var(--slate)"
                strokeWidth="2"
                pointerEvents="none"
              />
              <circle
                cx={(x(s.from) + x(s.to)) / 2}
                cy={y(s.setC)}
                r="4"
                fill="var(--slate)"
                pointerEvents="none"
              />
            </g>
          ))}
      </svg>
      <ReadingTable bean={bean} oven={oven} forecast={forecast ?? corridor ?? null} label={label} />
    </figure>
  );
}

type Stage = RoastPlan['stages'][number] & { from: number; to: number };
type Scale = (value: number) => number;
type Words = ReturnType<typeof useWords>;

function ticks(from: number, to: number, step: number): number[] {
  const first = Math.ceil(from / step) * step;
  return Array.from({ length: Math.max(0, Math.floor((to - first) / step) + 1) }, (_, i) => first + i * step);
}

/** The stages in a lane on top: done tinted, the current one outlined, those to come dashed. */
function StageLane({
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

/** What hands did and what is due, in a lane below; texts that would overlap are left to the table. */
function Lane({
  marks,
  x,
  y0,
  left,
  words,
}: {
  marks: readonly LaneMark[];
  x: Scale;
  y0: number;
  left: number;
  words: Words;
}) {
  const sorted = [...marks].sort((a, b) => a.seconds - b.seconds);
  const clock = (s: number) => `+${Math.floor(s / 60)}:${String(Math.floor(s % 60)).padStart(2, '0')}`;
  const texts = sorted.map((m) => `${m.text} ${m.due ? '' : clock(m.seconds)}`.trim());
  return (
    <g>
      {sorted.length === 0 && (
        <text x={left} y={y0 + 4} fontSize="12" fill="var(--ink-3)">
          {words.t('roast.lane.empty')}
        </text>
      )}
      {sorted.map((m, i) => {
        const at = x(m.seconds);
        const room = i < sorted.length - 1 ? x(sorted[i + 1]!.seconds) - at - 16 : Number.POSITIVE_INFINITY;
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
              <circle cx={at} cy={y0} r="4" fill="var(--ink)" />
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

/** Names beside the lines instead of a legend. */
function LineNames({
  bean,
  oven,
  corridor,
  x,
  y,
  now,
  end,
  stages,
  words,
}: {
  bean: readonly BeanReading[];
  oven: readonly BeanReading[];
  corridor: RoastForecast | null;
  x: Scale;
  y: Scale;
  now: number | null;
  end: number;
  stages: readonly Stage[];
  words: Words;
}) {
  const { t } = words;
  const at = (list: readonly BeanReading[], share: number) =>
    list.length > 3 ? list[Math.floor((list.length - 1) * share)]! : null;
  const b = at(bean, 0.45);
  const o = at(oven, 0.12);
  const ovenTop = o
    ? Math.max(...oven.filter((r) => Math.abs(r.seconds - o.seconds) < end * 0.12).map((r) => r.celsius))
    : 0;
  const c =
    corridor && (bean.length > 0 || now !== null)
      ? corridor.line.find((p) => p.seconds > end * 0.62)
      : corridor?.line.find((p) => p.seconds > end * 0.3);
  const first = stages[0];
  return (
    <g fontSize="12.5">
      {b && (
        <text x={x(b.seconds) + 10} y={y(b.celsius) + 20} fontWeight="600" fill="var(--violet-text)">
          {t('roast.series.bean')}
        </text>
      )}
      {o && (
        <text x={x(o.seconds) + 4} y={y(ovenTop) - 7} fill="var(--slate-text)">
          {t('roast.series.oven')}
        </text>
      )}
      {!o && first && (
        <text x={x(first.from) + 8} y={y(first.setC) - 14} fill="var(--slate-text)">
          {t('roast.series.plan')}
        </text>
      )}
      {c && (
        <text x={x(c.seconds) + 4} y={y(c.low) + 18} fill="var(--ink-3)">
          {t(now === null ? 'roast.series.expected' : 'roast.series.corridor')}
        </text>
      )}
    </g>
  );
}

/** The same as numbers, minute by minute. */
function ReadingTable({
  bean,
  oven,
  forecast,
  label,
}: {
  bean: readonly BeanReading[];
  oven: readonly BeanReading[];
  forecast: RoastForecast | null;
  label: string;
}) {
  const words = useWords();
  const { t } = words;
  const last = Math.max(
    bean.at(-1)?.seconds ?? 0,
    oven.at(-1)?.seconds ?? 0,
    forecast?.line.at(-1)?.seconds ?? 0,
  );
  const minutes = Array.from({ length: Math.min(240, Math.floor(last / 60) + 1) }, (_, i) => i);
  const near = (list: readonly BeanReading[], m: number) =>
    list.find((r) => r.seconds >= m * 60 - 30 && r.seconds < m * 60 + 30)?.celsius;
  const show = (v: number | undefined) => (v === undefined ? '' : words.temperature(v));
  return (
    <details className="text-[12.5px]">
      <summary className="min-h-8 cursor-pointer text-ink-3">{t('as-table')}</summary>
      <div className="max-h-64 overflow-auto" tabIndex={0} role="region" aria-label={label}>
        <table className="w-full text-left">
          <thead>
            <tr>
              <th scope="col">{t('minutes')}</th>
              <th scope="col">{t('roast.series.bean')}</th>
              <th scope="col">{t('roast.series.oven')}</th>
              <th scope="col">{t('roast.series.expected')}</th>
            </tr>
          </thead>
          <tbody>
            {minutes.map((m) => {
              const f = forecast?.line.find((p) => p.seconds >= m * 60 - 15);
              return (
                <tr key={m}>
                  <td>{m}</td>
                  <td>{show(near(bean, m))}</td>
                  <td>{show(near(oven, m))}</td>
                  <td>{f ? `${words.temperature(f.low, 0)} – ${words.temperature(f.high, 0)}` : ''}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </details>
  );
}
