import { notToldApart, type PanelScore, type SampleDifference, type SampleLevel } from '@wunsch/core/taste';
import { useWidth } from '../../../charts/useWidth.ts';
import { useWords } from '../../../words/words.tsx';

/** A sample as it stands on the scale. */
export interface ScaledSample extends SampleLevel {
  name: string;
  note: string;
}

const ROW = 58;
const TOP = 10;

/**
 * Samples on one scale, best first: a mark at the level, a bar drawn so that bars which do not meet differ, a ring for each taster, and
 * brackets over those that cannot be told apart.
 */
export function LikingScale({
  samples,
  differences,
  singles,
}: {
  samples: readonly ScaledSample[];
  differences: readonly SampleDifference[];
  /** One mean a taster and sample, with tasters and rounds taken out. */
  singles: readonly PanelScore[];
}) {
  const words = useWords();
  const { t } = words;
  const { ref, width } = useWidth<HTMLDivElement>(680);
  const isNarrow = width < 480;
  const left = isNarrow ? 4 : 150;
  const brackets = notToldApart(samples, differences);
  const right = 24 + brackets.length * 18 + (brackets.length > 0 && !isNarrow ? 78 : 0);
  const all = [
    ...samples.flatMap((s) => [s.estimate - s.compare, s.estimate + s.compare]),
    ...singles.map((s) => s.score),
  ];
  const low = Math.max(0, Math.floor(Math.min(...all)));
  const high = Math.min(10, Math.max(low + 2, Math.ceil(Math.max(...all))));
  const x = (score: number) =>
    left +
    8 +
    ((Math.min(high, Math.max(low, score)) - low) / (high - low)) * Math.max(60, width - left - right - 16);
  const row = isNarrow ? ROW + 18 : ROW;
  const height = TOP + samples.length * row + 26;
  const middle = (i: number) => TOP + i * row + (isNarrow ? 40 : 26);
  const n = (v: number) => words.number(v, 1);
  return (
    <div ref={ref} className="min-w-0 overflow-hidden">
      <svg
        width={width}
        height={height}
        role="img"
        aria-label={samples
          .map((s) =>
            t('panel.results.text', {
              name: s.name,
              level: n(s.estimate),
              low: n(s.estimate - s.compare),
              high: n(s.estimate + s.compare),
            }),
          )
          .join('; ')}
      >
        {Array.from({ length: high - low + 1 }, (_, i) => low + i).map((tick) => (
          <g key={tick}>
            <path d={`M${x(tick)} ${TOP}V${height - 22}`} stroke="var(--line)" strokeDasharray="1 3" />
            <text x={x(tick)} y={height - 5} fontSize="12" fill="var(--ink-3)" textAnchor="middle">
              {words.number(tick)}
            </text>
          </g>
        ))}
        {samples.map((s, i) => {
          const y = middle(i);
          return (
            <g key={s.sample}>
              <text x={4} y={isNarrow ? y - 30 : y + 1} fontSize="14.5" fontWeight={600} fill="var(--ink)">
                {s.name.length > 19 && !isNarrow ? `${s.name.slice(0, 18)}…` : s.name}
              </text>
              {!isNarrow && (
                <text x={4} y={y + 17} fontSize="12" fill="var(--ink-3)">
                  {s.note.length > 24 ? `${s.note.slice(0, 23)}…` : s.note}
                </text>
              )}
              <rect
                x={x(s.estimate - s.compare)}
                y={y - 7}
                width={Math.max(2, x(s.estimate + s.compare) - x(s.estimate - s.compare))}
                height={14}
                fill="var(--violet-tint)"
                stroke="var(--violet-text)"
              />
              <rect x={x(s.estimate) - 2.5} y={y - 11} width={5} height={22} fill="var(--violet-text)" />
              <text
                x={x(s.estimate)}
                y={y - 15}
                fontSize="13"
                fontWeight={700}
                fill="var(--ink)"
                textAnchor="middle"
              >
                {n(s.estimate)}
              </text>
              {singles
                .filter((d) => d.sample === s.sample)
                .map((d) => (
                  <circle
                    key={d.assessor}
                    cx={x(d.score)}
                    cy={y + 16 + (stackOf(singles, d, x) % 2) * 6}
                    r={3}
                    fill="var(--panel)"
                    stroke="var(--ink-2)"
                  />
                ))}
            </g>
          );
        })}
        {brackets.map((bracket, b) => {
          const at = samples
            .map((s, i) => (bracket.includes(s.sample) ? middle(i) : null))
            .filter((v) => v !== null);
          const [from, to] = [Math.min(...at) - 8, Math.max(...at) + 8];
          const bx = width - right + 14 + b * 18;
          return (
            <g key={bracket.join()}>
              <path d={`M${bx} ${from}h6V${to}h-6`} fill="none" stroke="var(--ink)" strokeWidth={1.4} />
              {b === brackets.length - 1 && !isNarrow && (
                <text x={bx + 11} y={(from + to) / 2 + 4} fontSize="12" fill="var(--ink-2)">
                  {t('panel.results.apart')
                    .split(' ')
                    .reduce<string[]>(
                      (lines, word) =>
                        (lines.at(-1) ?? '').length + word.length < 12 && lines.length > 0
                          ? [...lines.slice(0, -1), `${lines.at(-1)} ${word}`]
                          : [...lines, word],
                      [],
                    )
                    .map((line, k) => (
                      <tspan key={line} x={bx + 11} dy={k === 0 ? 0 : 14}>
                        {line}
                      </tspan>
                    ))}
                </text>
              )}
            </g>
          );
        })}
      </svg>
    </div>
  );
}

/** How many rings of the same sample lie within a ring’s width before this one, so that they are set apart. */
function stackOf(singles: readonly PanelScore[], of: PanelScore, x: (score: number) => number): number {
  const before = singles.slice(0, singles.indexOf(of));
  return before.filter((d) => d.sample === of.sample && Math.abs(x(d.score) - x(of.score)) < 7).length;
}
