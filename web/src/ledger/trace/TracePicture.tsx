import { useMemo } from 'react';
import { useNavigate } from 'react-router';
import type { TraceView } from '@wunsch/contract';
import { useWidth } from '../../charts/useWidth.ts';
import type { WordKey } from '../../words/en.ts';
import { useWords, type Words } from '../../words/words.tsx';
import { layOutTrace, MOST_ROWS, SIZES, TRACED_STATIONS, type LaidTrace } from './layout.ts';

/** From which day to which a batch was at work; a single day stands once. */
function daysOf({ startedAt, endedAt }: TraceView['rows'][number], { day, t }: Words): string {
  const from = day(startedAt);
  const to = endedAt ? day(endedAt) : t('trace.still');
  return from === to ? from : t('trace.days', { from, to });
}

/** What a picture’s marks mean, as far as they are in it. */
function legendOf({ rows, joins }: LaidTrace): WordKey[] {
  const stages = rows.flatMap((r) => r.stages);
  const named: [WordKey, boolean][] = [
    ['trace.legend.height', true],
    ['trace.legend.pale', stages.some((s) => s.content < s.height - 0.5)],
    ['trace.legend.added', joins.length > 0],
    ['trace.legend.bars', rows.some((r) => r.row.ends.length > 0)],
    ['trace.legend.open', stages.some((s) => s.isOpen)],
  ];
  return named.filter(([, isDrawn]) => isDrawn).map(([key]) => key);
}

/** What fits above a source. */
const shortened = (name: string) => (name.length > 14 ? `${name.slice(0, 13)}…` : name);

/** Ends named beside a row. */
const NAMED = 3;

/**
 * A trace as a picture: what came from outside, a row a batch in which every station stands as high as its mass (full colour is what is
 * traced, pale is what else is in it), what crosses between batches, and where the bars are.
 */
export function TracePicture({ view }: { view: TraceView }) {
  const words = useWords();
  const { t } = words;
  const navigate = useNavigate();
  const { ref, width } = useWidth<HTMLDivElement>(900);
  const laid = useMemo(() => layOutTrace(view, Math.max(720, width)), [view, width]);
  const right = laid.width - SIZES.right + 6;
  const endName = (e: TraceView['rows'][number]['ends'][number]) =>
    e.kind === 'here'
      ? e.name || t('stock.no-place')
      : e.kind === 'delivered'
        ? e.name
        : e.kind === 'missing'
          ? t('trace.missing')
          : words.word('to', e.name);
  return (
    <>
      <div
        ref={ref}
        className="panel overflow-x-auto p-2"
        tabIndex={0}
        role="region"
        aria-label={t('trace.picture')}
      >
        <svg
          width={laid.width}
          height={laid.height + 22}
          role="img"
          aria-label={view.rows
            .map((r) =>
              t('trace.row', {
                code: r.code,
                ends: r.ends.map((e) => `${e.count} ${endName(e)}`).join(', ') || t('trace.no-bars'),
              }),
            )
            .join('; ')}
        >
          {laid.rows[0] &&
            TRACED_STATIONS.map((station, k) => (
              <text
                key={station}
                x={SIZES.left + k * ((laid.width - SIZES.left - SIZES.right) / TRACED_STATIONS.length)}
                y={10}
                fontSize="12"
                fill="var(--ink-3)"
              >
                {t(`station.${station}`)}
              </text>
            ))}
          <g transform="translate(0 8)">
            {laid.sources.map((s) => (
              <g key={s.parcelId}>
                {s.flows.map((f) => (
                  <path key={f.toBatchId} d={f.path} fill="var(--stage-beans)" opacity={0.55} />
                ))}
                <rect
                  x={4}
                  y={s.y}
                  width={SIZES.source}
                  height={s.height}
                  fill="var(--stage-beans)"
                  stroke="var(--edge)"
                />
                <text x={4} y={s.y - 18} fontSize="13.5" fontWeight={700} fill="var(--ink)">
                  {shortened(words.word('ingredient', s.name))}
                </text>
                <text x={4} y={s.y - 4} fontSize="12" fill="var(--ink-2)">
                  {words.mass(s.massMg)}
                </text>
              </g>
            ))}
            {laid.rows.map(({ row, foot, stages }) => {
              const shown = row.ends.slice(0, NAMED);
              const more = row.ends.slice(NAMED).reduce((sum, e) => sum + e.count, 0);
              const all = row.ends.reduce((sum, e) => sum + e.count, 0);
              let y = foot - SIZES.bar;
              return (
                <g key={row.batchId}>
                  <path d={`M${SIZES.left} ${foot + 22}H${laid.width}`} stroke="var(--line)" />
                  {stages.map((s) => (
                    <g key={s.station}>
                      <rect
                        x={s.x}
                        y={s.y}
                        width={s.width}
                        height={s.height}
                        fill={`var(--stage-${s.station})`}
                        fillOpacity={0.22}
                        stroke="var(--line-2)"
                        strokeDasharray={s.isOpen ? '4 3' : undefined}
                      />
                      <rect
                        x={s.x}
                        y={foot - s.content}
                        width={s.width}
                        height={s.content}
                        fill={`var(--stage-${s.station})`}
                        stroke="var(--stage-edge)"
                      />
                    </g>
                  ))}
                  <text
                    x={SIZES.left}
                    y={foot + 16}
                    fontSize="13.5"
                    fill="var(--ink-2)"
                    className="cursor-pointer"
                    onClick={() => void navigate(`/batch/${row.batchId}`)}
                  >
                    <tspan fontWeight={700} fill="var(--ink)">
                      {row.code}
                    </tspan>{' '}
                    {daysOf(row, words)}
                  </text>
                  {row.ends.map((e) => {
                    const h = all > 0 ? (SIZES.bar * e.count) / all : 0;
                    const top = y;
                    y += h;
                    return (
                      <rect
                        key={`${e.kind} ${e.name}`}
                        x={right}
                        y={top}
                        width={14}
                        height={Math.max(1, h - 1)}
                        fill={
                          e.kind === 'missing'
                            ? 'var(--bad)'
                            : e.kind === 'here'
                              ? 'var(--violet)'
                              : e.kind === 'delivered'
                                ? 'var(--violet-2)'
                                : 'var(--line-2)'
                        }
                      />
                    );
                  })}
                  {shown.map((e, k) => (
                    <text
                      key={`${e.kind} ${e.name}`}
                      x={right + 20}
                      y={foot - SIZES.bar + 10 + k * 15}
                      fontSize="12.5"
                      fill={e.kind === 'missing' ? 'var(--bad)' : 'var(--ink-2)'}
                    >
                      <tspan fontWeight={700} fill={e.kind === 'missing' ? 'var(--bad)' : 'var(--ink)'}>
                        {words.number(e.count)}
                      </tspan>{' '}
                      {endName(e).slice(0, 16)}
                    </text>
                  ))}
                  {more > 0 && (
                    <text
                      x={right + 20}
                      y={foot - SIZES.bar + 10 + NAMED * 15}
                      fontSize="12"
                      fill="var(--ink-3)"
                    >
                      {t('trace.more', { n: words.number(more) })}
                    </text>
                  )}
                </g>
              );
            })}
            {laid.joins.map((j) => (
              <text key={j.key} x={j.x + 2} y={j.y} fontSize="11.5" fill="var(--ink-2)">
                + {words.mass(j.massMg)}{' '}
                {j.others > 0
                  ? t('trace.others', { n: j.others })
                  : words.word('ingredient', j.name).slice(0, 18)}
              </text>
            ))}
            {laid.crosses.map(({ link, path, x, y }) => (
              <g key={`${link.parcelId} ${link.toBatchId} ${link.toStation}`}>
                <path
                  d={path}
                  fill="none"
                  stroke={`var(--stage-${link.fromStation ?? 'winnow'})`}
                  strokeWidth={Math.max(2.5, Math.min(14, link.massMg * laid.scale))}
                />
                <text
                  x={x}
                  y={y}
                  fontSize="12"
                  fill="var(--ink)"
                  stroke="var(--panel)"
                  strokeWidth={3}
                  paintOrder="stroke"
                >
                  {words.mass(link.massMg)} {link.material ? words.word('material', link.material) : ''}
                </text>
              </g>
            ))}
          </g>
        </svg>
        {view.rows.length > MOST_ROWS && (
          <p className="p-2 text-[13px] text-ink-2">
            {t('trace.rows-more', { n: view.rows.length - MOST_ROWS })}
          </p>
        )}
      </div>
      <p className="text-[12.5px] text-ink-3">
        {legendOf(laid)
          .map((key) => t(key))
          .join(' ')}
      </p>
    </>
  );
}
