import type { ClassView } from '@wunsch/contract';
import { useWidth } from '../charts/useWidth.ts';
import { useWords } from '../words/words.tsx';

const ROW = 26;
const MINUTE = 60_000;

/** How a class runs: one bar a step, time to the right; what goes on by itself is hatched, and the end of the class is a line. */
export function RunSheetPicture({ of }: { of: ClassView }) {
  const words = useWords();
  const { t } = words;
  const { ref, width } = useWidth<HTMLDivElement>(560);
  const { rows, ends } = of.sheet;
  const start = Date.parse(of.startsAt);
  const left = Math.min(190, width * 0.47);
  const until = Math.max(of.minutes, ends);
  const x = (minute: number) => left + ((width - left - 8) * minute) / until;
  const tick = [15, 30, 60, 120].find((m) => ((width - left) * m) / until >= 54) ?? 240;
  const ticks = Array.from({ length: Math.floor(until / tick) + 1 }, (_, k) => k * tick);
  const height = 22 + rows.length * ROW + 4;
  const clock = (minute: number) => words.time(new Date(start + minute * MINUTE).toISOString());
  const said = rows.map((r) => `${clock(r.from)} ${t(`class.step.${r.step}`)}`).join(', ');
  return (
    <div ref={ref} className="min-w-0 overflow-hidden">
      <svg
        width={width}
        height={height}
        role="img"
        aria-label={t('class.run.alt', { steps: said })}
        className="block text-[12.5px]"
      >
        <defs>
          <pattern
            id="by-itself"
            width="6"
            height="6"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <rect width="6" height="6" fill="var(--panel)" />
            <rect width="2.5" height="6" fill="var(--violet-text)" />
          </pattern>
        </defs>
        {ticks.map((m) => (
          <g key={m}>
            <line x1={x(m)} x2={x(m)} y1={18} y2={height} stroke="var(--line)" />
            <text
              x={x(m)}
              y={12}
              fill="var(--ink-3)"
              textAnchor={x(m) > width - 24 ? 'end' : x(m) < left + 20 ? 'start' : 'middle'}
            >
              {clock(m)}
            </text>
          </g>
        ))}
        {rows.map((r, k) => (
          <g key={r.step}>
            <text x={0} y={22 + k * ROW + 17} fill="var(--ink)">
              {t(`class.step.${r.step}`)}
            </text>
            <rect
              x={x(r.from)}
              y={22 + k * ROW + 4}
              width={Math.max(2, x(r.to) - x(r.from))}
              height={ROW - 9}
              fill={r.unattended ? 'url(#by-itself)' : 'var(--violet-text)'}
              stroke="var(--violet-text)"
            />
          </g>
        ))}
        {ends > of.minutes && (
          <line
            x1={x(of.minutes)}
            x2={x(of.minutes)}
            y1={16}
            y2={height}
            stroke="var(--bad)"
            strokeWidth={2}
            strokeDasharray="4 3"
          />
        )}
      </svg>
    </div>
  );
}
