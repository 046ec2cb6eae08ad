import type { DrawnCards } from '@wunsch/core/trainer';
import { useWidth } from '../charts/useWidth.ts';
import { useWords } from '../words/words.tsx';

const TALL = 130;
const LEFT = 22;
const TOP = 8;

/** One taster’s two marks of each bar: the first filled, the second open, and the middle of all tasters as a short line. */
export function TasterMarks({ cards, taster }: { cards: DrawnCards; taster: string }) {
  const words = useWords();
  const { t } = words;
  const { ref, width } = useWidth<HTMLDivElement>(280);
  const slot = (width - LEFT) / cards.bars.length;
  const y = (mark: number) => TOP + TALL * (1 - mark / 10);
  const bars = cards.bars.map((bar, b) => {
    const of = cards.scores.filter((s) => s.sample === bar);
    const sorted = of.map((s) => s.score).sort((a, b) => a - b);
    return {
      bar,
      x: LEFT + slot * (b + 0.5),
      middle: (sorted[sorted.length / 2 - 1]! + sorted[sorted.length / 2]!) / 2,
      own: of.filter((s) => s.assessor === taster).map((s) => s.score),
    };
  });
  return (
    <div ref={ref} className="min-w-0">
      <svg
        width={width}
        height={TOP + TALL + 22}
        role="img"
        aria-label={bars
          .map(({ bar, own, middle }) =>
            t('cards.marks.alt', {
              bar,
              first: words.number(own[0]!, 1),
              second: words.number(own[1]!, 1),
              middle: words.number(middle, 1),
            }),
          )
          .join(' ')}
        className="block text-[12px]"
      >
        {[0, 5, 10].map((mark) => (
          <g key={mark}>
            <line x1={LEFT} x2={width} y1={y(mark)} y2={y(mark)} className="stroke-(--line)" />
            <text x={LEFT - 5} y={y(mark) + 4} textAnchor="end" className="num fill-(--ink-3)">
              {mark}
            </text>
          </g>
        ))}
        {bars.map(({ bar, x, middle, own: [first, second] }) => (
          <g key={bar}>
            <line
              x1={x - slot * 0.36}
              x2={x + slot * 0.36}
              y1={y(middle)}
              y2={y(middle)}
              className="stroke-(--ink-3) [stroke-width:2]"
            />
            <line x1={x - 7} x2={x + 7} y1={y(first!)} y2={y(second!)} className="stroke-(--violet)" />
            <circle cx={x - 7} cy={y(first!)} r="5" className="fill-(--violet)" />
            <circle
              cx={x + 7}
              cy={y(second!)}
              r="4.2"
              className="fill-(--panel) stroke-(--violet) [stroke-width:2]"
            />
            <text x={x} y={TOP + TALL + 17} textAnchor="middle" className="fill-(--ink-2)">
              {t('cards.bar', { bar })}
            </text>
          </g>
        ))}
      </svg>
    </div>
  );
}
