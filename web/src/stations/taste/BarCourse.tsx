import type { TastedBatch } from '@wunsch/contract';
import { useWidth } from '../../charts/useWidth.ts';
import { useWords } from '../../words/words.tsx';
import { dayOfUtc } from './dayOfUtc.ts';

const HEIGHT = 320;
const DAY = 86_400_000;
/** Difference in liking that still counts as the same bar. */
const MARGIN = 1;

/** A bar over its weeks: every card’s liking, the mean of each day, the first tasting with its margin, and the best-before day. */
export function BarCourse({ batch, keepsUntil }: { batch: TastedBatch; keepsUntil: number | null }) {
  const words = useWords();
  const { t } = words;
  const { ref, width } = useWidth<HTMLDivElement>(600);
  const cards = batch.cards.map((c) => ({ ...c, ms: Date.parse(c.at) }));
  const days = new Map<number, number[]>();
  for (const c of cards) {
    const day = Math.floor(c.ms / DAY);
    days.set(day, [...(days.get(day) ?? []), c.liking]);
  }
  const means = [...days]
    .sort((a, b) => a[0] - b[0])
    .map(([day, values]) => ({
      ms: day * DAY + DAY / 2,
      liking: values.reduce((a, b) => a + b, 0) / values.length,
    }));
  const from = Math.min(batch.madeAt ? Date.parse(batch.madeAt) : Infinity, cards[0]!.ms);
  const to = Math.max(keepsUntil ?? 0, cards.at(-1)!.ms + 7 * DAY);
  const [left, right, top, bottom] = [30, 14, 12, 34];
  const x = (ms: number) => left + ((ms - from) / Math.max(DAY, to - from)) * (width - left - right);
  const y = (liking: number) => top + (1 - liking / 10) * (HEIGHT - top - bottom);
  const first = means[0]!.liking;
  const ticks = ticksOf(from, to, width < 480 ? 3 : 6);
  return (
    <div ref={ref} className="min-w-0 overflow-hidden">
      <svg
        width={width}
        height={HEIGHT}
        role="img"
        aria-label={t('tasted.course.text', {
          code: batch.code,
          points: means.map((m) => `${words.day(dayOfUtc(m.ms))} ${words.number(m.liking, 1)}`).join(', '),
        })}
      >
        <rect
          x={left}
          y={y(Math.min(10, first + MARGIN))}
          width={width - left - right}
          height={y(Math.max(0, first - MARGIN)) - y(Math.min(10, first + MARGIN))}
          fill="var(--panel-2)"
        />
        {[0, 2, 4, 6, 8, 10].map((tick) => (
          <g key={tick}>
            <path d={`M${left} ${y(tick)}H${width - right}`} stroke="var(--line)" strokeDasharray="1 3" />
            <text x={left - 6} y={y(tick) + 4} fontSize="12" fill="var(--ink-3)" textAnchor="end">
              {words.number(tick)}
            </text>
          </g>
        ))}
        {ticks.map((ms) => (
          <text key={ms} x={x(ms)} y={HEIGHT - 18} fontSize="12" fill="var(--ink-3)" textAnchor="middle">
            {words.day(dayOfUtc(ms)).replace(/^\d+\.? /, '')}
          </text>
        ))}
        <path d={`M${left} ${y(first)}H${width - right}`} stroke="var(--ink-3)" strokeDasharray="5 4" />
        {keepsUntil !== null && (
          <g>
            <path d={`M${x(keepsUntil)} ${top}V${HEIGHT - bottom}`} stroke="var(--bad)" strokeWidth={1.4} />
            <text x={x(keepsUntil) - 5} y={top + 10} fontSize="12" fill="var(--ink-2)" textAnchor="end">
              {t('tasted.before')}
            </text>
          </g>
        )}
        <path
          d={`M${means.map((m) => `${x(m.ms)} ${y(m.liking)}`).join('L')}`}
          fill="none"
          stroke="var(--violet-text)"
          strokeWidth={2}
        />
        {cards.map((c, i) => (
          <circle key={i} cx={x(c.ms)} cy={y(c.liking)} r={3.2} fill="var(--panel)" stroke="var(--ink-2)" />
        ))}
        {means.map((m) => (
          <circle key={m.ms} cx={x(m.ms)} cy={y(m.liking)} r={4} fill="var(--violet-text)" />
        ))}
        {batch.madeAt && (
          <text x={x(Date.parse(batch.madeAt))} y={HEIGHT - 3} fontSize="12" fill="var(--ink-2)">
            {t('tasted.made')}
          </text>
        )}
      </svg>
      <p className="mt-1 text-[12.5px] text-ink-3">{t('tasted.course.note')}</p>
    </div>
  );
}

/** Beginnings of months between two instants, at most so many. */
function ticksOf(from: number, to: number, most: number): number[] {
  const start = new Date(from);
  const months: number[] = [];
  for (let m = 1; m < 240; m += 1) {
    const at = Date.UTC(start.getUTCFullYear(), start.getUTCMonth() + m, 1);
    if (at >= to) break;
    months.push(at);
  }
  const step = Math.max(1, Math.ceil(months.length / most));
  return months.filter((_, i) => i % step === 0);
}
