import type { StockPace } from '@wunsch/contract';
import { useRead } from '../../shell/door.tsx';
import { useNow } from '../../shell/now.ts';
import { Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';

/** Most things named. */
const MOST = 8;

/** Fewer days than this are pointed out. */
const SOON_DAYS = 21;

const DAY = 86_400_000;

/** Ingredients, wrapping and bars that run out first at the pace they go. */
export function RunsOut() {
  const words = useWords();
  const { t } = words;
  const now = useNow(3_600_000);
  const { data } = useRead<StockPace[]>('/api/stock-paces');
  const going = (data ?? [])
    .filter((p): p is StockPace & { daysLeft: number } => p.daysLeft !== null)
    .sort((a, b) => a.daysLeft - b.daysLeft)
    .slice(0, MOST);
  if (going.length === 0) return null;
  const weeks = Math.round(Math.max(...going.map((p) => p.days)) / 7);
  return (
    <Panel title={t('runs-out')} aside={t('runs-out.text', { weeks })}>
      <ul aria-label={t('runs-out')} className="grid gap-x-8 text-[14px] sm:grid-cols-2">
        {going.map((p) => {
          const isSoon = p.daysLeft < SOON_DAYS;
          return (
            <li
              key={`${p.kind} ${p.name}`}
              className="flex flex-wrap items-baseline justify-between gap-x-3 border-b border-line py-2"
            >
              <span className="min-w-0">
                {p.kind === 'ingredient' ? words.word('ingredient', p.name) : p.name}{' '}
                <span className="text-ink-3">
                  {p.kind === 'ingredient' ? words.mass(p.onHand) : t('pieces.n', { n: p.onHand })}
                </span>
              </span>
              <span className={isSoon ? 'font-semibold text-bad' : 'text-ink-2'}>
                {isSoon && <span aria-hidden="true">▲ </span>}
                {p.onHand === 0
                  ? t('runs-out.gone')
                  : `${t('runs-out.in', { weeks: Math.floor(p.daysLeft / 7) })}, ${t('runs-out.day', { day: words.day(new Date(now + p.daysLeft * DAY).toISOString()) })}`}
              </span>
            </li>
          );
        })}
      </ul>
    </Panel>
  );
}
