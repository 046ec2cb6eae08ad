import type { ApexOptions } from 'apexcharts';
import { roundAxis, type Axis } from './axes.ts';
import { LOOKS } from './looks.ts';
import { placeNames, type Place } from './names.ts';
import type { SeriesChartProps } from './SeriesChart.tsx';

/** Both axes of a chart. */
export interface Axes {
  x: Axis;
  y: Axis;
}

/** Room beside and below the plot for ticks and titles, px. */
const BESIDE = 76;
const BELOW = 62;

/** How much of a line a name hides that stands on it. */
const HIDES = '75%';

/** For how many things there is room where things are counted. */
const FEW = 6;

/** The span of an axis while there is nothing to draw yet. */
const USUAL = [0, 60] as const;

const css = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim();

/** The axes of a chart, and where its lines and bands are named. */
export function layOut(
  {
    series,
    ranges = [],
    window,
    aim,
    now,
    xMax,
    yMin,
    yMax,
    usual,
    counted = false,
    height = 300,
  }: SeriesChartProps,
  width: number,
): { axes: Axes; names: Place[] } {
  const drawn = [
    ...series.map((s) => s.points.flatMap(([x, y]) => (y === null ? [] : [[x, y] as const]))),
    ...ranges.map((r) => r.points.flatMap(([x, low, high]) => [[x, low] as const, [x, high] as const])),
  ].flat();
  const along = [...drawn.map((p) => p[0]), ...(typeof now === 'number' ? [now] : [])];
  const x = roundAxis(counted ? [...along, FEW] : along, {
    min: 0,
    whole: counted,
    ...(xMax !== undefined && { max: xMax }),
    usual: usual?.x ?? USUAL,
  });
  const wanted = [...(window ? [window.low, window.high] : []), ...(aim ? [aim.y] : [])];
  const y = roundAxis(
    [...drawn.map((p) => p[1]), ...wanted, ...(drawn.length === 0 ? (usual?.y ?? []) : [])],
    {
      ...(yMin !== undefined && { min: yMin }),
      ...(yMax !== undefined && { max: yMax }),
      usual: usual?.y ?? USUAL,
    },
  );
  const level = (name: string, height: number) => ({
    name,
    points: Array.from({ length: 21 }, (_, i): [number, number] => [
      x.min + (i / 20) * (x.max - x.min),
      height,
    ]),
  });
  const lines = [
    ...(window ? [level(window.name, window.high)] : []),
    ...(aim ? [level(aim.name, aim.y)] : []),
    ...series.map((s) => ({
      name: s.name,
      points: s.points.flatMap(([px, py]): [number, number][] => (py === null ? [] : [[px, py]])),
    })),
    ...ranges.map((r) => ({
      name: r.name,
      points: r.points.map(([px, , high]): [number, number] => [px, high]),
    })),
  ];
  const names = placeNames(
    lines,
    { x: [x.min, x.max], y: [y.min, y.max] },
    { width: Math.max(100, width - BESIDE), height: Math.max(60, height - BELOW) },
  );
  return { axes: { x, y }, names };
}

/** Writes an axis’ ticks as the page writes its numbers, or as finely as they lie apart where two would read the same. */
export function tickLabels(
  { min, max, ticks, decimals }: Axes['x'],
  format: ((x: number) => string) | undefined,
  number: (value: number, decimals?: number) => string,
): (x: number) => string {
  const exact = (x: number) => number(x, decimals);
  if (!format) return exact;
  const labels = Array.from({ length: ticks + 1 }, (_, k) => format(min + (k / ticks) * (max - min)));
  const told = labels.filter((label) => /^[\d\u2212-]/.test(label));
  return new Set(told).size < told.length ? exact : format;
}

/** What the library draws a chart from. Lines and bands are named where they run; there is no legend. */
export function makeOptions(
  { series, ranges = [], xTitle, yTitle, xFormat, yFormat, window, aim, marks = [], now }: SeriesChartProps,
  { x, y }: Axes,
  names: readonly Place[],
  number: (value: number, decimals?: number) => string,
): ApexOptions {
  const ink3 = css('--ink-3');
  const isEmpty = [...series, ...ranges].every((s) => s.points.length === 0);
  const xLabel = tickLabels(x, xFormat, number);
  const labelStyle = {
    // A line that runs through a name must not strike it out.
    background: `color-mix(in srgb, ${css('--panel')} ${HIDES}, transparent)`,
    color: css('--ink-2'),
    fontSize: '12px',
    fontFamily: 'inherit',
    borderColor: 'transparent',
    padding: { left: 2, right: 2, top: 0, bottom: 0 },
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
    colors: [...ranges.map(() => css('--violet-text')), ...series.map((s) => css(LOOKS[s.look].colour))],
    stroke: {
      width: [...ranges.map(() => 0), ...series.map((s) => LOOKS[s.look].width), 0],
      dashArray: [...ranges.map(() => 0), ...series.map((s) => LOOKS[s.look].dash)],
      curve: 'straight',
    },
    fill: { type: 'solid', opacity: [...ranges.map(() => 0.16), ...series.map(() => 1)] },
    markers: {
      size: [...ranges.map(() => 0), ...series.map((s) => (s.look === 'points' ? 5 : 0)), 0],
      strokeWidth: 0,
      hover: { sizeOffset: 3 },
    },
    legend: { show: false },
    dataLabels: { enabled: false },
    grid: { borderColor: css('--line'), strokeDashArray: 3, padding: { left: 8, right: 12 } },
    tooltip: {
      enabled: !isEmpty,
      theme: document.documentElement.dataset.theme === 'dark' ? 'dark' : 'light',
      shared: true,
      intersect: false,
      x: { formatter: (v) => (xFormat ? xFormat(v) : number(v, x.decimals)) },
      y: {
        formatter: (v: number | null | undefined) =>
          v === null || v === undefined ? '' : yFormat ? yFormat(v) : String(v),
      },
    },
    xaxis: {
      type: 'numeric',
      max: x.max,
      min: x.min,
      tickAmount: x.ticks,
      title: { text: xTitle, style: { fontWeight: 500, color: ink3 } },
      labels: { formatter: (v) => xLabel(Number(v)) },
      axisBorder: { color: css('--line-2') },
      axisTicks: { color: css('--line-2') },
      tooltip: { enabled: false },
    },
    yaxis: {
      min: y.min,
      max: y.max,
      tickAmount: y.ticks,
      title: { text: yTitle, style: { fontWeight: 500, color: ink3 } },
      labels: { formatter: (v) => number(v, y.decimals) },
    },
    annotations: {
      points: names.map((n) => ({
        x: n.x,
        y: n.y,
        marker: { size: 0 },
        label: { text: n.name, offsetY: -3, style: labelStyle, borderColor: 'transparent' },
      })),
      yaxis: [
        ...(window
          ? [
              {
                y: window.low,
                y2: window.high,
                fillColor: css('--ok'),
                opacity: 0.14,
                borderColor: css('--ok'),
              },
            ]
          : []),
        ...(aim
          ? [
              {
                y: aim.y,
                borderColor: css('--ok'),
                strokeDashArray: 3,
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
