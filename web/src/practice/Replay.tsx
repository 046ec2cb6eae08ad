import { area, line } from 'd3-shape';
import type { PracticeScore } from '@wunsch/contract';
import { TEMPER_PATHS, VERDICT_LIMITS } from '@wunsch/core/temper';
import { useWidth } from '../charts/useWidth.ts';
import { useWords } from '../words/words.tsx';

const LEFT = 44;
const RIGHT = 64;
const TOP = 12;
const TALL = 230;
const BAND = 110;
const GAP = 26;

/** How each line is drawn; what is cool is thin, what matters is thick. */
const LINES: Readonly<Record<string, string>> = {
  bowl: 'stroke-(--ink) [stroke-width:2.4]',
  bean: 'stroke-(--ink) [stroke-width:2.4]',
  surface: 'stroke-(--ink-2) [stroke-width:1.4] [stroke-dasharray:5_3]',
  air: 'stroke-(--ink-3) [stroke-width:1.4]',
};

/** Ends of a scale on round numbers. */
function ends(values: readonly number[], step: number): [number, number] {
  return [Math.floor(Math.min(...values) / step) * step, Math.ceil(Math.max(...values) / step) * step];
}

/** Names at the right edge, kept apart. */
function apart(places: { name: string; y: number }[]): { name: string; y: number }[] {
  const sorted = [...places].sort((a, b) => a.y - b.y);
  sorted.forEach((p, i) => {
    if (i > 0) p.y = Math.max(p.y, sorted[i - 1]!.y + 14);
  });
  return sorted;
}

/** What really went on, on one axis of time: temperatures, under them the crystals, and what hands did when. */
export function Replay({ score }: { score: PracticeScore }) {
  const words = useWords();
  const { t } = words;
  const { ref, width } = useWidth<HTMLDivElement>(640);
  const { minutes, series, hands } = score.replay;
  const last = minutes.at(-1) ?? 1;
  const warm = series.filter((s) => s.unit === '°C');
  const crystals = series.filter((s) => s.unit === '%');
  const x = (min: number) => LEFT + ((width - LEFT - RIGHT) * min) / Math.max(1, last);
  const [low, high] = ends(
    warm.flatMap((s) => s.values),
    5,
  );
  const y = (c: number) => TOP + TALL - (TALL * (c - low)) / Math.max(1, high - low);
  const most = Math.max(2 * VERDICT_LIMITS.full * 100, ...crystals.flatMap((s) => s.values));
  const bottom = TOP + TALL + (crystals.length > 0 ? GAP + BAND : 0);
  const share = (v: number) => bottom - (BAND * v) / most;
  const window = score.lesson === 'temper' ? TEMPER_PATHS.dark : null;
  const step = last > 40 ? 10 : 5;
  const marks = Array.from({ length: Math.floor(last / step) + 1 }, (_, i) => i * step);
  const named = (name: string) => t(`practice.series.${name as 'bowl'}`);
  const path = (values: readonly number[], at: (v: number) => number) =>
    line<number>((_, i) => x(minutes[i]!), at)([...values]) ?? '';
  return (
    <div ref={ref} className="min-w-0">
      <svg
        width={width}
        height={bottom + 40 + (hands.length > 0 ? 18 : 0)}
        role="img"
        aria-label={t('practice.replay.alt', { min: Math.round(last), n: hands.length })}
        className="block overflow-visible text-[12px]"
      >
        {window && (
          <>
            <rect
              x={LEFT}
              width={Math.max(0, width - LEFT - RIGHT)}
              y={y(window.windowHighC)}
              height={y(window.windowLowC) - y(window.windowHighC)}
              className="fill-(--violet-tint)"
            />
            <text x={LEFT + 6} y={y(window.windowHighC) - 4} className="fill-(--ink-3)">
              {t('practice.window')}
            </text>
          </>
        )}
        {[low, (low + high) / 2, high].map((c) => (
          <g key={c}>
            <line x1={LEFT} x2={width - RIGHT} y1={y(c)} y2={y(c)} className="stroke-(--line)" />
            <text x={LEFT - 6} y={y(c) + 4} textAnchor="end" className="num fill-(--ink-3)">
              {words.temperature(c, 0)}
            </text>
          </g>
        ))}
        {warm.map((s) => (
          <path key={s.name} d={path(s.values, y)} className={`fill-none ${LINES[s.name] ?? ''}`} />
        ))}
        {apart(warm.map((s) => ({ name: s.name, y: y(s.values.at(-1) ?? low) + 4 }))).map((p) => (
          <text key={p.name} x={width - RIGHT + 6} y={p.y} className="fill-(--ink-2)">
            {named(p.name)}
          </text>
        ))}
        {crystals.length > 0 && (
          <>
            <rect
              x={LEFT}
              width={Math.max(0, width - LEFT - RIGHT)}
              y={share(VERDICT_LIMITS.full * 100)}
              height={share(VERDICT_LIMITS.ready * 100) - share(VERDICT_LIMITS.full * 100)}
              className="fill-(--violet-tint)"
            />
            <text x={LEFT + 6} y={share(VERDICT_LIMITS.full * 100) - 4} className="fill-(--ink-3)">
              {t('practice.enough')}
            </text>
            {crystals.map((s) => (
              <path
                key={s.name}
                d={
                  area<number>(
                    (_, i) => x(minutes[i]!),
                    bottom,
                    (v) => share(v),
                  )([...s.values]) ?? ''
                }
                className={s.name === 'stable' ? 'fill-(--ink)/70' : 'fill-(--ink-3)/45'}
              />
            ))}
            <line x1={LEFT} x2={width - RIGHT} y1={bottom} y2={bottom} className="stroke-(--edge)" />
            <text x={LEFT - 6} y={bottom} textAnchor="end" className="num fill-(--ink-3)">
              0 %
            </text>
            <text x={LEFT - 6} y={share(most) + 8} textAnchor="end" className="num fill-(--ink-3)">
              {words.number(most, 0)} %
            </text>
            {apart(crystals.map((s) => ({ name: s.name, y: share(s.values.at(-1) ?? 0) }))).map((p) => (
              <text key={p.name} x={width - RIGHT + 6} y={p.y} className="fill-(--ink-2)">
                {named(p.name)}
              </text>
            ))}
          </>
        )}
        {marks.map((m) => (
          <text key={m} x={x(m)} y={bottom + 16} textAnchor="middle" className="num fill-(--ink-3)">
            {m}
          </text>
        ))}
        <text x={LEFT - 10} y={bottom + 16} textAnchor="end" className="fill-(--ink-3)">
          {t('unit.min')}
        </text>
        {score.accident && (
          <line
            x1={x(score.accident.minutes)}
            x2={x(score.accident.minutes)}
            y1={TOP}
            y2={bottom}
            className="stroke-(--signal) [stroke-width:3]"
          />
        )}
        {hands.map((h, i) => (
          <path key={i} d={`M${x(h.minutes)},${bottom + 22} l-5,9 h10 z`} className="fill-(--ink)">
            <title>{`${words.number(h.minutes, 1)} ${t('unit.min')}: ${t(`practice.did.${h.what as 'warm'}`)}`}</title>
          </path>
        ))}
      </svg>
      {hands.length > 0 && (
        <ol className="mt-1 flex flex-wrap gap-x-4 gap-y-0.5 text-[12.5px] text-ink-2">
          {hands.map((h, i) => (
            <li key={i}>
              <span className="num">{words.number(h.minutes, 1)}</span>{' '}
              {t(`practice.did.${h.what as 'warm'}`)}
            </li>
          ))}
        </ol>
      )}
    </div>
  );
}
