import { beanExpectedAt, type BeanReading, type RoastForecast } from '@wunsch/core/roast';
import { nameWidth } from '../../charts/names.ts';
import type { Scale, Stage, Words } from './chartScale.ts';

/** Names beside the lines instead of a legend. */
export function LineNames({
  bean,
  oven,
  corridor,
  earlier,
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
  /** Loads before this one. */
  earlier: readonly (readonly BeanReading[])[];
  x: Scale;
  y: Scale;
  now: number | null;
  end: number;
  stages: readonly Stage[];
  words: Words;
}) {
  const { t } = words;
  // By time, since a probe may read more often than it did; and early, where the corridor's name does not stand.
  const at = (list: readonly BeanReading[], share: number, most: number) => {
    const last = list.at(-1);
    if (!last || list.length <= 3) return null;
    const wanted = Math.min(last.seconds * share, end * most);
    return list.find((r) => r.seconds >= wanted) ?? last;
  };
  const b = at(bean, 0.45, 0.3);
  const o = at(oven, 0.12, 0.12);
  const ovenTop = o
    ? Math.max(...oven.filter((r) => Math.abs(r.seconds - o.seconds) < end * 0.12).map((r) => r.celsius))
    : 0;
  const c =
    corridor && (bean.length > 0 || now !== null)
      ? corridor.line.find((p) => p.seconds > end * 0.62)
      : corridor?.line.find((p) => p.seconds > end * 0.3);
  const before = earlier.map((e) => e.at(-1)!).sort((p, q) => p.celsius - q.celsius)[0];
  const first = stages[0];
  const last = bean.at(-1);
  // The corridor's name keeps to the side where the beans, and what is expected of them, are not.
  const isBelow = corridor && last && last.celsius < beanExpectedAt(corridor, last.seconds).low;
  const former = t('roast.series.earlier', { n: earlier.length });
  const expected = t(now === null ? 'roast.series.expected' : 'roast.series.corridor');
  /** Where the corridor's name begins: within the plot, and beside the band all along. */
  const besideCorridor = ({ line }: RoastForecast, from: RoastForecast['line'][number]) => {
    const left = Math.max(x(0) + 4, Math.min(x(from.seconds) + 4, x(end) - nameWidth(expected)));
    const right = left + nameWidth(expected);
    const along = [from, ...line.filter((p) => x(p.seconds) >= left && x(p.seconds) <= right)];
    return {
      x: left,
      y: isBelow
        ? Math.min(...along.map((p) => y(p.high))) - 8
        : Math.max(...along.map((p) => y(p.low))) + 18,
    };
  };
  return (
    // A rim in the ground's colour keeps a name legible where a line runs through it.
    <g
      fontSize="12.5"
      stroke="var(--panel)"
      strokeWidth="4"
      strokeLinejoin="round"
      style={{ paintOrder: 'stroke' }}
    >
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
      {before && (
        <text
          x={Math.max(x(0) + 4 + nameWidth(former), Math.min(x(before.seconds), x(end)))}
          y={y(before.celsius) + 16}
          textAnchor="end"
          fill="var(--ink-3)"
        >
          {former}
        </text>
      )}
      {corridor && c && (
        <text {...besideCorridor(corridor, c)} fill="var(--ink-3)">
          {expected}
        </text>
      )}
    </g>
  );
}
