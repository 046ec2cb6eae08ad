import type { PersonRuns, RunsView } from '@wunsch/contract';
import { isJudged } from '@wunsch/core/skills';
import { useWords } from '../words/words.tsx';

/** What is said of how a run went. */
export type RunWord = 'good' | 'wanting' | 'unseen' | 'done';

/** How a run went; work that nothing measured can tell of is done. */
export const runWord = ({ good }: { good: boolean | null }, canTell: boolean): RunWord =>
  good === null ? (canTell ? 'unseen' : 'done') : good ? 'good' : 'wanting';

const SIZE = 14;

/** The last runs at a station, oldest first, each a mark whose shape says how it went. */
export function RunMarks({
  runs,
  sum,
}: {
  runs: PersonRuns['latest'];
  /** Counts of the same, for where there are no runs one by one. */
  sum: RunsView[number] | undefined;
}) {
  const { t } = useWords();
  if (!sum) return null;
  const words: RunWord[] =
    runs.length > 0
      ? runs.map((r) => runWord(r, isJudged(r.kind))).reverse()
      : Array.from({ length: sum.done }, () => 'done' as const);
  const { good, wanting, unseen, done } = sum;
  const said = t('runs.counts', { good, wanting, unseen, done });
  return (
    <svg
      role="img"
      aria-label={said}
      width={words.length * (SIZE + 3)}
      height={SIZE}
      className="inline-block align-middle"
    >
      <title>{said}</title>
      {words.map((word, i) => (
        <g key={i} transform={`translate(${i * (SIZE + 3)},0)`}>
          <Mark word={word} />
        </g>
      ))}
    </svg>
  );
}

function Mark({ word }: { word: RunWord }) {
  const inner = SIZE - 2;
  if (word === 'done') return <rect x={5} y={5} width={4} height={4} fill="var(--ink-3)" />;
  return (
    <>
      <rect
        x={1}
        y={1}
        width={inner}
        height={inner}
        rx={2}
        fill={word === 'good' ? 'var(--violet-text)' : 'none'}
        stroke={word === 'wanting' ? 'var(--bad)' : 'var(--violet-text)'}
        strokeWidth={1.5}
      />
      {word === 'wanting' && (
        <path
          d={`M3 3L${SIZE - 3} ${SIZE - 3}M${SIZE - 3} 3L3 ${SIZE - 3}`}
          stroke="var(--bad)"
          strokeWidth={1.5}
        />
      )}
    </>
  );
}
