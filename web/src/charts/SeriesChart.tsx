import { lazy, Suspense, useMemo } from 'react';
import { useTheme } from '../shell/theme.ts';
import { useWords } from '../words/words.tsx';
import { layOut, makeOptions } from './options.ts';
import { useWidth } from './useWidth.ts';

const Apex = lazy(() => import('./apex.ts'));

/** One line of a chart. */
export interface Series {
  name: string;
  points: readonly (readonly [x: number, y: number | null])[];
  /** Measured solid, planned or forecast dashed, what is only to be compared with faint, single readings as points. */
  look: 'measured' | 'planned' | 'forecast' | 'machine' | 'faint' | 'dotted' | 'points';
}

/** A range of a chart, drawn as a filled band. */
export interface Range {
  name: string;
  points: readonly (readonly [x: number, low: number, high: number])[];
}

/** What a chart shows. */
export interface SeriesChartProps {
  label: string;
  series: readonly Series[];
  ranges?: readonly Range[];
  xTitle: string;
  yTitle: string;
  xFormat?: (x: number) => string;
  yFormat?: (y: number) => string;
  height?: number;
  yMin?: number;
  yMax?: number;
  xMax?: number;
  /** Along x things stand one after the other, counted from 1: ticks are whole, and there is room for a few. */
  counted?: boolean;
  /** Span of the axes while there is nothing to draw yet; 0 to 60 where left out. */
  usual?: { x?: readonly [number, number]; y?: readonly [number, number] };
  /** Green band of what is wanted, with its name. */
  window?: { low: number; high: number; name: string } | null;
  aim?: { y: number; name: string } | null;
  marks?: readonly { x: number; text: string }[];
  now?: number | null;
}

const NONE: readonly Range[] = [];

/** A chart of series in the workshop's own look; the numbers can also be read as a table. Charts load only where they are used. */
export function SeriesChart(props: SeriesChartProps) {
  const { label, series, ranges = NONE, height = 300 } = props;
  const { t, number } = useWords();
  const { ref: place, width } = useWidth<HTMLDivElement>(600);
  const theme = useTheme();
  const { xTitle, yTitle, window: wanted, aim, marks, now } = props;
  const { axes, names } = layOut(props, width);
  // The chart is told of a change only when something it draws has changed, not on every tick of the page.
  const drawn = JSON.stringify([
    series.map((s) => [s.name, s.look]),
    ranges.map((r) => r.name),
    axes,
    names,
    xTitle,
    yTitle,
    wanted,
    aim,
    marks,
    now,
    theme,
  ]);
  // The text holds everything the options are made of; the props themselves are new at each drawing.
  const options = useMemo(() => makeOptions(props, axes, names, number), [drawn]); // eslint-disable-line react-hooks/exhaustive-deps
  const { x, y } = axes;
  const data = useMemo(() => {
    const told = [
      ...ranges.map((r) => ({
        name: r.name,
        type: 'rangeArea',
        data: r.points.map(([x, low, high]) => ({ x, y: [low, high] })),
      })),
      ...series.map((s) => ({
        name: s.name,
        // A line without width is drawn without its points; single readings are a scatter of their own.
        type: s.look === 'points' ? 'scatter' : 'line',
        data: s.points.map(([x, y]) => ({ x, y })),
      })),
    ];
    // Where nothing is drawn yet the library leaves out what is wanted too, unless it is given something it cannot be seen to draw.
    return told.some((s) => s.data.length > 0)
      ? told
      : [...told, { name: '', type: 'line', data: [x.min, x.max].map((at) => ({ x: at, y: y.min })) }];
  }, [series, ranges, x.min, x.max, y.min]);
  const columns = [...series, ...ranges.flatMap(edgesOf)];
  return (
    <figure className="m-0">
      <div ref={place} role="img" aria-label={label} style={{ minHeight: height }}>
        <Suspense fallback={<p className="p-4 text-ink-3">{t('loading')}</p>}>
          <Apex
            key={theme}
            type={ranges.length > 0 ? 'rangeArea' : 'line'}
            options={options}
            series={data}
            height={height}
          />
        </Suspense>
      </div>
      <details className="mt-1 text-[12.5px]">
        <summary className="min-h-8 cursor-pointer text-ink-3">{t('as-table')}</summary>
        <div className="max-h-64 overflow-auto" tabIndex={0} role="region" aria-label={label}>
          <table className="w-full text-left">
            <thead>
              <tr>
                <th scope="col">{props.xTitle}</th>
                {columns.map((c) => (
                  <th key={c.name} scope="col">
                    {c.name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {rowsOf(columns).map(({ x, ys }) => (
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

/** A range's two edges as columns of the table. */
function edgesOf({ name, points }: Range): Pick<Series, 'name' | 'points'>[] {
  return [
    { name: `${name} ↓`, points: points.map(([x, low]) => [x, low] as const) },
    { name: `${name} ↑`, points: points.map(([x, , high]) => [x, high] as const) },
  ];
}

/** Rows of the table form: at most 120, evenly taken. */
function rowsOf(series: readonly Pick<Series, 'points'>[]): { x: number; ys: (number | null)[] }[] {
  const xs = [...new Set(series.flatMap((s) => s.points.map(([x]) => x)))].sort((a, b) => a - b);
  const step = Math.max(1, Math.ceil(xs.length / 120));
  const maps = series.map((s) => new Map(s.points));
  return xs.filter((_, i) => i % step === 0).map((x) => ({ x, ys: maps.map((m) => m.get(x) ?? null) }));
}
