import { beanExpectedAt, type BeanReading, type RoastForecast } from '@wunsch/core/roast';
import { nameWidth } from '../../charts/names.ts';
import type { Scale, Stage, Words } from './chartScale.ts';

/** From one line of writing to the next, px. */
const LINE = 15;

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
  const placed: { left: number; right: number; foot: number }[] = [];
  /** Where a name begins and ends that keeps to the plot. */
  const within = (name: string, from: number) => {
    const left = Math.max(x(0) + 4, Math.min(from, x(end) - nameWidth(name)));
    return { left, right: left + nameWidth(name) };
  };
  /** Keeps a name to the plot, and below those that stand there already. */
  const named = (name: string, from: number, wanted: number) => {
    const { left, right } = within(name, from);
    let foot = wanted;
    while (placed.some((p) => left < p.right && p.left < right && Math.abs(foot - p.foot) < LINE))
      foot += LINE;
    placed.push({ left, right, foot });
    return { name, x: left, y: foot, fontWeight: 400 };
  };
  /** Where the corridor's name begins: within the plot, and beside the band all along. */
  const besideCorridor = ({ line }: RoastForecast, from: RoastForecast['line'][number]) => {
    const { left, right } = within(expected, x(from.seconds) + 4);
    const along = [from, ...line.filter((p) => x(p.seconds) >= left && x(p.seconds) <= right)];
    return named(
      expected,
      left,
      isBelow ? Math.min(...along.map((p) => y(p.high))) - 8 : Math.max(...along.map((p) => y(p.low))) + 18,
    );
  };
  const names = [
    b && {
      ...named(t('roast.series.bean'), x(b.seconds) + 10, y(b.celsius) + 20),
      fill: 'var(--violet-text)',
      fontWeight: 600,
    },
    o && { ...named(t('roast.series.oven'), x(o.seconds) + 4, y(ovenTop) - 7), fill: 'var(--slate-text)' },
    !o &&
      first && {
        ...named(t('roast.series.plan'), x(first.from) + 8, y(first.setC) - 14),
        fill: 'var(--slate-text)',
      },
    corridor && c && { ...besideCorridor(corridor, c), fill: 'var(--ink-3)' },
    before && {
      ...named(former, Math.min(x(before.seconds), x(end)) - nameWidth(former), y(before.celsius) + 16),
      fill: 'var(--ink-3)',
    },
  ];
  return (
    // A rim in the ground's colour keeps a name legible where a line runs through it.
    <g
      fontSize="12.5"
      stroke="var(--panel)"
      strokeWidth="4"
      strokeLinejoin="round"
      style={{ paintOrder: 'stroke' }}
    >
      {names.map(
        (n) =>
          n && (
            <text key={n.name} x={n.x} y={n.y} fill={n.fill} fontWeight={n.fontWeight}>
              {n.name}
            </text>
          ),
      )}
    </g>
  );
}
