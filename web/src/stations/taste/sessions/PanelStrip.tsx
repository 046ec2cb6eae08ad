import { STRIP_SECONDS, SWALLOW_SECONDS, type Dominance, type DominanceCurve } from '@wunsch/core/taste';
import { useWidth } from '../../../charts/useWidth.ts';
import { useWords } from '../../../words/words.tsx';

const LANE = 34;
const SHADES = [
  '--stage-taste',
  '--stage-winnow',
  '--stage-sort',
  '--stage-roast',
  '--stage-recipe',
  '--slate',
];

/** Most notes drawn; the rest led hardly anywhere. */
const MOST = 8;

/** A panel’s strips together: each note a stroke as thick as the share that felt it foremost, outlined where more than chance. */
export function PanelStrip({ of }: { of: Dominance }) {
  const words = useWords();
  const { t } = words;
  const { ref, width } = useWidth<HTMLDivElement>(600);
  const x = (s: number) => 8 + (s / STRIP_SECONDS) * (width - 16);
  const peak = (c: DominanceCurve) => Math.max(...c.share);
  const drawn = [...of.curves]
    .sort((a, b) => peak(b) - peak(a))
    .slice(0, MOST)
    .sort((a, b) => of.curves.indexOf(a) - of.curves.indexOf(b));
  const height = 22 + drawn.length * LANE + 6;
  const name = (note: string) => words.word('note', note);
  return (
    <div ref={ref} className="min-w-0 overflow-hidden">
      <svg
        width={width}
        height={height}
        role="img"
        aria-label={drawn.map((c) => `${name(c.note)} ${words.percent(peak(c), 0)}`).join(', ')}
      >
        <rect x={8} y={20} width={x(SWALLOW_SECONDS) - 8} height={height - 24} fill="var(--panel-2)" />
        {(
          [
            [0, 'start', 'panel.results.first'],
            [SWALLOW_SECONDS, 'middle', 'panel.results.swallowed'],
            [STRIP_SECONDS, 'end', 'panel.results.last'],
          ] as const
        ).map(([s, anchor, key]) => (
          <text key={key} x={x(s)} y={13} fontSize="12" fill="var(--ink-3)" textAnchor={anchor}>
            {t(key)}
          </text>
        ))}
        <path d={`M${x(SWALLOW_SECONDS)} 20V${height - 4}`} stroke="var(--violet-text)" strokeWidth={1.6} />
        {drawn.map((c, i) => {
          const y = 22 + i * LANE + LANE / 2;
          const thick = (share: number) => (share * (LANE - 8)) / 2;
          const felt = c.share.flatMap((v, s) => (v > 0 ? [s] : []));
          const [from, to] = [Math.min(...felt), Math.max(...felt)];
          const span = (a: number, b: number) =>
            c.share.slice(a, b + 1).map((v, k) => [x(a + k), v] as const);
          const outline = (a: number, b: number) => {
            const points = span(a, b);
            const over = points.map(([px, v]) => `${px} ${y - thick(v)}`);
            const under = points.map(([px, v]) => `${px} ${y + thick(v)}`).reverse();
            return `M${[...over, ...under].join('L')}Z`;
          };
          const end = x(to) + 6;
          const fits = end + name(c.note).length * 7 < width;
          return (
            <g key={c.note}>
              <path d={outline(from, to)} fill={`var(${SHADES[i % SHADES.length]})`} opacity={0.75} />
              {c.significant.map((s) => (
                <path
                  key={s.from}
                  d={outline(s.from, s.to)}
                  fill="none"
                  stroke="var(--ink)"
                  strokeWidth={1.6}
                />
              ))}
              <text
                x={fits ? end : x(from) - 6}
                y={y + 4}
                fontSize="12.5"
                fontWeight={600}
                fill="var(--ink)"
                textAnchor={fits ? 'start' : 'end'}
              >
                {name(c.note)}
              </text>
            </g>
          );
        })}
      </svg>
    </div>
  );
}
