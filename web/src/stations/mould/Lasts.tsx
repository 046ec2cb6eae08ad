import type { RoundPlan } from '@wunsch/core/mould';
import { useNow } from '../../shell/now.ts';
import { Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import type { RoundNow } from './useMoulding.ts';

/** When a bowl is too thick to fill moulds, epoch ms. */
export type BowlEnd = { low: number; middle: number; high: number } | 'long' | null;

const ROW = 30;
const LEFT = 92;
const WIDTH = 560;

interface Bar {
  name: string;
  from: number;
  to: number;
  note: string;
  look: 'out' | 'in' | 'planned';
}

/** Whether the bowl lasts: its window and the rounds, those done and those to come, on one time axis. */
export function Lasts({
  rounds,
  ahead,
  end,
  pouredAt,
}: {
  rounds: readonly RoundNow[];
  ahead: RoundPlan | null;
  end: BowlEnd;
  pouredAt: number;
}) {
  const words = useWords();
  const { t } = words;
  const now = useNow(10_000);
  const clock = (ms: number) => words.time(new Date(ms).toISOString());
  const bars: Bar[] = [
    ...rounds.map((r): Bar => ({
      name: t('round.n', { n: r.number }),
      from: r.inAt,
      to: r.outAt ?? r.dueAt,
      note:
        r.outAt === null
          ? t('round.note.in', { n: r.bars, time: clock(r.dueAt) })
          : t('round.note.out', { n: r.bars, time: clock(r.outAt) }),
      look: r.outAt === null ? 'in' : 'out',
    })),
    ...(ahead?.rounds ?? []).map((r, i): Bar => ({
      name: t('round.n', { n: rounds.length + i + 1 }),
      from: now + r.from * 60_000,
      to: now + r.outAt * 60_000,
      note: t('round.note.planned', { n: r.bars, time: clock(now + r.from * 60_000) }),
      look: 'planned',
    })),
  ];
  const last = Math.max(
    now + 10 * 60_000,
    ...bars.map((b) => b.to),
    typeof end === 'object' && end ? end.high : 0,
  );
  const start = Math.min(pouredAt, now, ...bars.map((b) => b.from));
  const x = (ms: number) =>
    LEFT + ((Math.min(last, Math.max(start, ms)) - start) / (last - start)) * (WIDTH - LEFT - 8);
  const filledAt = ahead ? now + ahead.filledAt * 60_000 : null;
  const spare =
    typeof end === 'object' && end && filledAt !== null ? Math.round((end.middle - filledAt) / 60_000) : null;
  const answer =
    end === null
      ? t('lasts.unknown')
      : end === 'long'
        ? t('lasts.long')
        : filledAt === null
          ? t('lasts.until', { time: clock(end.middle) })
          : spare! >= 0
            ? t('lasts.yes', { n: spare! })
            : t('lasts.no', { n: -spare!, bars: Math.max(0, ahead!.barsInTime) });
  const rows = bars.length + 1;
  const height = rows * ROW + 24;
  return (
    <Panel title={t('lasts')} aside={<span data-testid="lasts">{answer}</span>}>
      <svg
        viewBox={`0 0 ${WIDTH} ${height}`}
        className="w-full"
        role="img"
        aria-label={`${t('lasts')} ${answer}. ${bars.map((b) => `${b.name}: ${b.note}`).join('; ')}`}
      >
        <g fontSize="12" fill="var(--ink)">
          <text x={0} y={19} fontWeight={700}>
            {t('lasts.bowl')}
          </text>
          {end !== null && (
            <>
              <rect
                x={x(start)}
                y={6}
                width={Math.max(2, x(end === 'long' ? last : end.low) - x(start))}
                height={18}
                fill="var(--ok-tint)"
                stroke="var(--ok)"
              />
              {end !== 'long' && (
                <rect
                  x={x(end.low)}
                  y={6}
                  width={Math.max(2, x(end.high) - x(end.low))}
                  height={18}
                  fill="var(--violet-tint)"
                  stroke="var(--violet-2)"
                  strokeDasharray="4 3"
                />
              )}
              <text x={x(start) + 6} y={19} fill="var(--ok)">
                {end === 'long'
                  ? t('lasts.long')
                  : t('lasts.window', {
                      low: clock(end.low),
                      high: clock(end.high),
                    })}
              </text>
            </>
          )}
          {bars.map((b, i) => {
            const y = (i + 1) * ROW;
            const from = x(b.from);
            const to = Math.max(from + 3, x(b.to));
            const beside = to + 6 + b.note.length * 6.2 < WIDTH;
            return (
              <g key={b.name}>
                <text x={0} y={y + 19} fontWeight={700}>
                  {b.name}
                </text>
                <rect
                  x={from}
                  y={y + 6}
                  width={to - from}
                  height={18}
                  fill={
                    b.look === 'out' ? 'var(--stage-mould)' : b.look === 'in' ? '#6F6165' : 'var(--panel-2)'
                  }
                  stroke="var(--ink-2)"
                  {...(b.look === 'planned' && { strokeDasharray: '4 3' })}
                />
                <text
                  x={beside ? to + 6 : Math.max(LEFT, from - 6)}
                  y={y + 19}
                  textAnchor={beside || from - 6 < LEFT + 120 ? 'start' : 'end'}
                  fill={
                    beside || from - 6 >= LEFT + 120
                      ? 'var(--ink-2)'
                      : b.look === 'planned'
                        ? 'var(--ink-2)'
                        : '#fff'
                  }
                >
                  {b.note}
                </text>
              </g>
            );
          })}
          <line x1={x(now)} x2={x(now)} y1={2} y2={rows * ROW} stroke="var(--violet-text)" strokeWidth={2} />
          <text
            x={x(now)}
            y={rows * ROW + 16}
            textAnchor={x(now) > WIDTH - 60 ? 'end' : 'middle'}
            fontWeight={700}
          >
            {t('lasts.now', { time: clock(now) })}
          </text>
        </g>
      </svg>
      <p className="mt-1 text-[12px] text-ink-3">{t('lasts.hint')}</p>
    </Panel>
  );
}
