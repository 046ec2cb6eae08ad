import type { ForecastBook } from '@wunsch/contract';
import { surpriseOf } from '@wunsch/core/calibration';
import { useWidth } from '../../charts/useWidth.ts';
import { useWords } from '../../words/words.tsx';

const TALL = 118;
const MIDDLE = 54;
const REACH = 4;
const HALF = 1.2816;
const DOT = 3.5;

/** Each forecast as a dot: how far what came lay from what was expected, against the range that was to hold four of five. */
export function Surprises({
  forecasts,
  label,
}: {
  forecasts: ForecastBook[number]['forecasts'];
  label: string;
}) {
  const { t } = useWords();
  const { ref, width } = useWidth<HTMLDivElement>(520);
  const x = (z: number) => 12 + ((width - 24) * (Math.max(-REACH, Math.min(REACH, z)) + REACH)) / (2 * REACH);
  // Dots that would lie on one another are stacked, away from the axis by turns.
  const stacks = new Map<number, number>();
  const dots = forecasts.map((f) => {
    const z = surpriseOf(f);
    const bin = Math.round(x(z) / (DOT * 2));
    const nth = stacks.get(bin) ?? 0;
    stacks.set(bin, nth + 1);
    const up = Math.ceil(nth / 2) * (nth % 2 === 1 ? -1 : 1);
    return { id: f.id + f.at, code: f.code, z, cx: bin * DOT * 2, cy: MIDDLE + up * DOT * 2 };
  });
  return (
    <div ref={ref} className="min-w-0 overflow-hidden">
      <svg
        width={width}
        height={TALL}
        role="img"
        aria-label={label}
        className="block overflow-hidden text-[12px]"
      >
        <rect
          x={x(-HALF)}
          width={x(HALF) - x(-HALF)}
          y={14}
          height={2 * (MIDDLE - 14)}
          fill="var(--violet-tint)"
        />
        <line x1={x(0)} x2={x(0)} y1={14} y2={2 * MIDDLE - 14} stroke="var(--edge)" strokeDasharray="3 3" />
        {dots.map((d) => (
          <circle
            key={d.id}
            cx={d.cx}
            cy={Math.max(18, Math.min(2 * MIDDLE - 18, d.cy))}
            r={DOT}
            fill={Math.abs(d.z) <= HALF ? 'var(--violet-text)' : 'var(--panel)'}
            stroke="var(--violet-text)"
            strokeWidth={1.5}
          >
            <title>{d.code}</title>
          </circle>
        ))}
        <text x={x(-HALF) + 4} y={26} fill="var(--ink-3)">
          {t('forecasts.range')}
        </text>
        <text x={12} y={TALL - 6} fill="var(--ink-3)">
          {t('forecasts.less')}
        </text>
        <text x={x(0)} y={TALL - 6} textAnchor="middle" fill="var(--ink-3)">
          {t('forecasts.as-said')}
        </text>
        <text x={width - 12} y={TALL - 6} textAnchor="end" fill="var(--ink-3)">
          {t('forecasts.more')}
        </text>
      </svg>
    </div>
  );
}
