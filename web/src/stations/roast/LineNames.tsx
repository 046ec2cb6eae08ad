import { beanExpectedAt, type BeanReading, type RoastForecast } from '@wunsch/core/roast';
import type { Scale, Stage, Words } from './chartScale.ts';

/** Names beside the lines instead of a legend. */
export function LineNames({
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
  const last = bean.at(-1);
  // The corridor's name keeps to the side where the beans, and what is expected of them, are not.
  const isBelow = corridor && last && last.celsius < beanExpectedAt(corridor, last.seconds).low;
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
      {c && (
        <text x={x(c.seconds) + 4} y={isBelow ? y(c.high) - 8 : y(c.low) + 18} fill="var(--ink-3)">
          {t(now === null ? 'roast.series.expected' : 'roast.series.corridor')}
        </text>
      )}
    </g>
  );
}
