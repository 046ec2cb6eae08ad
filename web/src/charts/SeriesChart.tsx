import type { ApexOptions } from 'apexcharts';
import { lazy, Suspense, useMemo } from 'react';
import { useTheme } from '../shell/theme.ts';
import { useWords } from '../words/words.tsx';

const Apex = lazy(() => import('./apex.ts'));

/** One line of a chart. */
export interface Series {
  name: string;
  points: readonly (readonly [x: number, y: number | null])[];
  /** Measured solid, planned or forecast dashed, a band's two edges thin. */
  look: 'measured' | 'planned' | 'forecast' | 'machine' | 'edge' | 'points';
}

/** What a chart shows. */
export interface SeriesChartProps {
  label: string;
  series: readonly Series[];
  xTitle: string;
  yTitle: string;
  xFormat?: (x: number) => string;
  yFormat?: (y: number) => string;
  height?: number;
  yMin?: number;
  yMax?: number;
  xMax?: number;
  /** Green band of what is wanted, with its name. */
  window?: { low: number; high: number; name: string } | null;
  aim?: { y: number; name: string } | null;
  marks?: readonly { x: number; text: string }[];
  now?: number | null;
}

const css = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim();

/** A chart of series in the workshop's own look; the numbers can also be read as a table. Charts load only where they are used. */
export function SeriesChart(props: SeriesChartProps) {
  const { label, series, height = 300 } = props;
  const { t, number } = useWords();
  const theme = useTheme();
  const { xTitle, yTitle, yMin, yMax, xMax, window: wanted, aim, marks, now } = props;
  // The chart is told of a change only when something it draws has changed, not on every tick of the page.
  const drawn = JSON.stringify([
    series.map((s) => [s.name, s.look]),
    xTitle,
    yTitle,
    yMin,
    yMax,
    xMax,
    wanted,
    aim,
    marks,
    now,
    theme,
  ]);
  // The text holds everything the options are made of; the props themselves are new at each drawing.
  const options = useMemo(() => makeOptions(props), [drawn]); // eslint-disable-line react-hooks/exhaustive-deps
  const data = useMemo(
    () =>
      series.map((s) => ({
        name: s.name,
        // A line without width is drawn without its points; single readings are a scatter of their own.
        type: s.look === 'points' ? 'scatter' : 'line',
        data: s.points.map(([x, y]) => ({ x, y })),
      })),
    [series],
  );
  return (
    <figure className="m-0">
      <div role="img" aria-label={label} style={{ minHeight: height }}>
        <Suspense fallback={<p className="p-4 text-ink-3">{t('loading')}</p>}>
          <Apex key={theme} type="line" options={options} series={data} height={height} />
        </Suspense>
      </div>
      <details className="mt-1 text-[12.5px]">
        <summary className="min-h-8 cursor-pointer text-ink-3">{t('as-table')}</summary>
        <div className="max-h-64 overflow-auto" tabIndex={0} role="region" aria-label={label}>
          <table className="w-full text-left">
            <thead>
              <tr>
                <th scope="col">{props.xTitle}</th>
                {series.map((s) => (
                  <th key={s.name} scope="col">
                    {s.name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {rowsOf(series).map(({ x, ys }) => (
                <tr key={x}>
                  <td>{props.xFormat ? props.xFormat(x) : number(x, 1)}</td>
                  {ys.map((y, i) => (
                    <td key={i}>{y === null ? '' : props.yFormat ? props.yFormat(y) : number(y, 1)}</td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </details>
    </figure>
  );
}

/** Rows of the table form: at most 120, evenly taken. */
function rowsOf(series: readonly Series[]): { x: number; ys: (number | null)[] }[] {
  const xs = [...new Set(series.flatMap((s) => s.points.map(([x]) => x)))].sort((a, b) => a - b);
  const step = Math.max(1, Math.ceil(xs.length / 120));
  const maps = series.map((s) => new Map(s.points));
  return xs.filter((_, i) => i % step === 0).map((x) => ({ x, ys: maps.map((m) => m.get(x) ?? null) }));
}

/** An axis from 0 whose ticks fall on round numbers: at least up to `reach`, with four to eight steps. */
function roundAxis(reach: number): { max: number; ticks: number } {
  if (!(reach > 0)) return { max: 1, ticks: 5 };
  const power = 10 ** Math.floor(Math.log10(reach));
  const step = [0.1, 0.2, 0.25, 0.5, 1, 2].map((k) => k * power).find((s) => reach / s <= 7) ?? power * 2;
  const ticks = Math.ceil(reach / step - 1e-9);
  return { max: ticks * step, ticks };
}

function makeOptions({
  series,
  xTitle,
  yTitle,
  xFormat,
  yFormat,
  yMin,
  yMax,
  xMax,
  window,
  aim,
  marks = [],
  now,
}: SeriesChartProps): ApexOptions {
  const ink3 = css('--ink-3');
  const axis = roundAxis(xMax ?? Math.max(0, now ?? 0, ...series.flatMap((s) => s.points.map(([x]) => x))));
  const colour = {
    measured: css('--violet-text'),
    forecast: css('--violet-text'),
    points: css('--violet-text'),
    planned: css('--slate'),
    machine: css('--slate'),
    edge: css('--line-2'),
  };
  const width = { measured: 2.6, forecast: 2, planned: 1.6, machine: 1.6, edge: 1, points: 0 };
  const dash = { measured: 0, forecast: 5, planned: 5, machine: 0, edge: 3, points: 0 };
  const labelStyle = {
    background: 'transparent',
    color: css('--ink-2'),
    fontSize: '12px',
    fontFamily: 'inherit',
    borderColor: 'transparent',
  };
  return {
    chart: {
      animations: { enabled: false },
      toolbar: { show: false },
      zoom: { enabled: false },
      fontFamily: 'inherit',
      foreColor: ink3,
      background: 'transparent',
      parentHeightOffset: 0,
    },
    colors: series.map((s) => colour[s.look]),
    stroke: {
      width: series.map((s) => width[s.look]),
      dashArray: series.map((s) => dash[s.look]),
      curve: 'straight',
    },
    markers: {
      size: series.map((s) => (s.look === 'points' ? 5 : 0)),
      strokeWidth: 0,
      hover: { sizeOffset: 3 },
    },
    legend: {
      show: series.length > 1,
      position: 'top',
      horizontalAlign: 'left',
      fontSize: '12.5px',
      labels: { colors: css('--ink-2') },
      itemMargin: { horizontal: 8 },
    },
    grid: { borderColor: css('--line'), strokeDashArray: 3, padding: { left: 8, right: 12 } },
    tooltip: {
      theme: document.documentElement.dataset.theme === 'dark' ? 'dark' : 'light',
      shared: true,
      intersect: false,
      x: { formatter: (v) => (xFormat ? xFormat(v) : String(v)) },
      y: { formatter: (v) => (v === null || v === undefined ? '' : yFormat ? yFormat(v) : String(v)) },
    },
    xaxis: {
      type: 'numeric',
      max: axis.max,
      min: 0,
      tickAmount: axis.ticks,
      title: { text: xTitle, style: { fontWeight: 500, color: ink3 } },
      labels: { formatter: (v) => (xFormat ? xFormat(Number(v)) : v) },
      axisBorder: { color: css('--line-2') },
      axisTicks: { color: css('--line-2') },
      tooltip: { enabled: false },
    },
    yaxis: {
      min: yMin,
      max: yMax,
      forceNiceScale: yMin === undefined,
      title: { text: yTitle, style: { fontWeight: 500, color: ink3 } },
      labels: { formatter: (v) => (yFormat ? yFormat(v) : String(Math.round(v))) },
    },
    annotations: {
      yaxis: [
        ...(window
          ? [
              {
                y: window.low,
                y2: window.high,
                fillColor: css('--ok'),
                opacity: 0.14,
                borderColor: css('--ok'),
                label: {
                  text: window.name,
                  position: 'left' as const,
                  textAnchor: 'start' as const,
                  style: labelStyle,
                  borderColor: 'transparent',
                },
              },
            ]
          : []),
        ...(aim
          ? [
              {
                y: aim.y,
                borderColor: css('--ok'),
                strokeDashArray: 3,
                label: {
                  text: aim.name,
                  position: 'left' as const,
                  textAnchor: 'start' as const,
                  style: { ...labelStyle, color: css('--ok') },
                  borderColor: 'transparent',
                },
              },
            ]
          : []),
      ],
      xaxis: [
        ...marks.map((m) => ({
          x: m.x,
          borderColor: css('--ink-3'),
          strokeDashArray: 2,
          label: {
            text: m.text,
            orientation: 'horizontal' as const,
            style: labelStyle,
            borderColor: 'transparent',
          },
        })),
        ...(now !== null && now !== undefined
          ? [{ x: now, borderColor: css('--violet-text'), strokeDashArray: 0, borderWidth: 2 }]
          : []),
      ],
    },
  };
}
