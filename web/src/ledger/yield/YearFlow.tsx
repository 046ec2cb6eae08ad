import type { YieldBook } from '@wunsch/contract';
import { STAGE } from '../../shell/glyphs.tsx';
import { useWords } from '../../words/words.tsx';

/** Losses below this share of what came in are summed up. */
const WORTH_NAMING = 0.002;

/** Room for so many stations at least: a year of a few is no taller than one of all. */
const LEAST_COLUMNS = 6;

/** Where a year’s mass went: a band for each station from what came in to what went on, and what peeled off by name. */
export function YearFlow({ flow }: { flow: YieldBook['flow'] }) {
  const words = useWords();
  const { t } = words;
  const most = Math.max(...flow.map((f) => f.inMg), 1);
  const [width, height] = [Math.max(LEAST_COLUMNS, flow.length) * 120, 150];
  const px = height / most;
  const top = (mg: number) => (height - mg * px) / 2 + 6;
  return (
    <>
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label={t('yields.picture.flow')}>
        <svg
          viewBox={`0 0 ${width} ${height + 34}`}
          className="w-full min-w-[560px]"
          role="img"
          aria-label={t('yields.picture.flow')}
        >
          {flow.map((f, k) => {
            const [x, end] = [k * 120, k * 120 + 112];
            const [a, b] = [top(f.inMg), top(f.outMg)];
            return (
              <g key={f.station}>
                <path
                  d={`M${x} ${a} C${x + 56} ${a} ${x + 56} ${b} ${end} ${b} V${b + f.outMg * px} C${x + 56} ${b + f.outMg * px} ${x + 56} ${a + f.inMg * px} ${x} ${a + f.inMg * px} Z`}
                  fill={STAGE[f.station].fill}
                  stroke="var(--stage-edge)"
                />
                <text x={x + 2} y={height + 26} fontSize="13" fill="var(--ink-2)">
                  {t(`station.${f.station}`)}
                </text>
              </g>
            );
          })}
        </svg>
      </div>
      <ul className="mt-2 grid gap-x-6 text-[13.5px] sm:grid-cols-2">
        {flow.map((f) => {
          const named = f.losses.filter((l) => Math.abs(l.massMg) >= f.inMg * WORTH_NAMING);
          const rest = f.losses.filter((l) => !named.includes(l)).reduce((sum, l) => sum + l.massMg, 0);
          return (
            <li key={f.station} className="border-b border-line py-1.5">
              <b>{t(`station.${f.station}`)}</b>{' '}
              <span className="num">
                {words.mass(f.inMg)} → {words.mass(f.outMg)}
              </span>
              <span className="block text-ink-2">
                {[
                  f.besideMg > 0 ? `${t('yields.beside')} ${words.mass(f.besideMg)}` : '',
                  ...named.map((l) => `${words.word('loss', l.reason)} ${words.mass(l.massMg)}`),
                  rest > 0 ? `${t('yields.rest')} ${words.mass(rest)}` : '',
                ]
                  .filter(Boolean)
                  .join(', ')}
              </span>
            </li>
          );
        })}
      </ul>
    </>
  );
}
