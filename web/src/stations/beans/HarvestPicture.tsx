import type { MonthAhead, PlotYear } from '@wunsch/core/beans';
import { useWidth } from '../../charts/useWidth.ts';
import { useWords } from '../../words/words.tsx';

const LONGEST = 68;
const FLOOR = 98;
const BRANCH = 10;

/** A pod that hangs from the branch: its length stands for its share of the most there were in a month, by area. */
function pod(x: number, length: number): string {
  const half = length * 0.27;
  const [top, middle, end] = [BRANCH + 4, BRANCH + 4 + length * 0.45, BRANCH + 4 + length];
  return `M ${x} ${top} C ${x + half} ${top}, ${x + half * 1.25} ${middle}, ${x} ${end} C ${x - half * 1.25} ${middle}, ${x - half} ${top}, ${x} ${top} Z`;
}

/** A plot's year on its branch: pods picked each month, and for the months ahead between which sizes they should lie. */
export function HarvestBranch({
  of,
  ahead,
  year,
  most,
}: {
  of: PlotYear;
  ahead: readonly MonthAhead[];
  year: number;
  most: number;
}) {
  const words = useWords();
  const { t } = words;
  const { ref, width } = useWidth<HTMLDivElement>(520);
  const step = width / 12;
  const long = (pods: number) => LONGEST * Math.sqrt(pods / Math.max(1, most));
  const months = of.months.map((pods, m) => {
    const month = `${year}-${String(m + 1).padStart(2, '0')}`;
    const expected = pods > 0 ? undefined : ahead.find((a) => a.month === month && a.high >= 1);
    const name = new Intl.DateTimeFormat(words.language, {
      month: width < 560 ? 'narrow' : 'short',
      timeZone: 'UTC',
    }).format(new Date(`${month}-15T00:00:00Z`));
    return { month, name, pods, expected, x: (m + 0.5) * step };
  });
  return (
    <div ref={ref} className="min-w-0 overflow-hidden">
      <svg
        width={width}
        height={FLOOR + 34}
        role="img"
        className="block"
        aria-label={t('harvest.picture', {
          plot: of.plot,
          months: months
            .flatMap((m) => {
              if (m.pods > 0)
                return [t('harvest.picture.picked', { month: m.name, pods: words.number(m.pods) })];
              if (m.expected)
                return [t('harvest.picture.ahead', { month: m.name, ...range(m.expected, words.number) })];
              return [];
            })
            .join(', '),
        })}
      >
        <path
          d={`M 0 ${BRANCH + 1} C ${width / 3} ${BRANCH - 4}, ${(2 * width) / 3} ${BRANCH + 5}, ${width} ${BRANCH - 1}`}
          fill="none"
          stroke="var(--ink-3)"
          strokeWidth="2.5"
          strokeLinecap="round"
        />
        {months.map(({ month, name, pods, expected, x }) => (
          <g key={month}>
            {pods > 0 && (
              <path d={pod(x, long(pods))} fill="var(--stage-roast)" stroke="var(--ink-2)" strokeWidth="1" />
            )}
            {expected && (
              <>
                <path
                  d={`${pod(x, long(expected.high))} ${pod(x, long(expected.low))}`}
                  fillRule="evenodd"
                  fill="var(--violet-tint)"
                  stroke="var(--violet-text)"
                  strokeWidth="1"
                />
                <path
                  d={pod(x, long(expected.middle))}
                  fill="none"
                  stroke="var(--violet-text)"
                  strokeWidth="1.4"
                  strokeDasharray="3 3"
                />
              </>
            )}
            <text
              x={x}
              y={FLOOR + 10}
              textAnchor="middle"
              fontSize="12"
              className="num"
              fill={pods > 0 ? 'var(--ink)' : 'var(--violet-text)'}
            >
              {pods > 0 ? words.number(pods) : expected ? short(expected, words.number, step) : ''}
            </text>
            <text x={x} y={FLOOR + 28} textAnchor="middle" fontSize="12" fill="var(--ink-3)">
              {name}
            </text>
          </g>
        ))}
      </svg>
    </div>
  );
}

const range = (m: MonthAhead, number: (n: number) => string) => ({
  low: number(Math.round(m.low)),
  high: number(Math.round(m.high)),
});

/** The range where it finds room, else its middle. */
const short = (m: MonthAhead, number: (n: number) => string, room: number) => {
  const { low, high } = range(m, number);
  return room > 46 ? `${low}–${high}` : `~${number(Math.round(m.middle))}`;
};
