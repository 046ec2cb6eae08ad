import { Bell } from 'lucide-react';
import { useState } from 'react';
import type { StockPace } from '@wunsch/contract';
import { useRead } from '../../shell/door.tsx';
import { useNow } from '../../shell/now.ts';
import { useMayMake } from '../../shell/session.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import { paceAmount, paceName } from './names.ts';
import { ReorderDialog } from './ReorderDialog.tsx';

/** Most things named. */
const MOST = 8;

/** Fewer days than this are pointed out. */
const SOON_DAYS = 21;

const DAY = 86_400_000;

const isDue = (p: StockPace) => p.reorderAt !== null && p.onHand <= p.reorderAt;

/** Days left in which to order, at the pace it goes; null where nobody has said how long it takes to come. */
const daysToOrder = (p: StockPace) =>
  p.daysLeft === null || p.deliveryDays === null ? null : p.daysLeft - p.deliveryDays;

/** What is to be ordered again, by the point somebody set; then what runs out first at the pace it goes. */
export function RunsOut() {
  const words = useWords();
  const { t } = words;
  const now = useNow(3_600_000);
  const mayMake = useMayMake();
  const { data } = useRead<StockPace[]>('/api/stock-paces');
  const [setting, setSetting] = useState<StockPace | null>(null);
  const going = (data ?? [])
    .filter((p) => p.daysLeft !== null || p.reorderAt !== null || p.deliveryDays !== null)
    .sort(
      (a, b) => Number(isDue(b)) - Number(isDue(a)) || (a.daysLeft ?? Infinity) - (b.daysLeft ?? Infinity),
    );
  // What somebody watches is always named.
  const shown = going.filter((p, i) => i < MOST || p.reorderAt !== null);
  if (shown.length === 0) return null;
  const weeks = Math.round(Math.max(...shown.map((p) => p.days)) / 7);
  return (
    <Panel title={t('runs-out')} aside={t('runs-out.text', { weeks })}>
      <ul aria-label={t('runs-out')} className="grid gap-x-8 text-[14px] sm:grid-cols-2">
        {shown.map((p) => {
          const due = isDue(p);
          const toOrder = daysToOrder(p);
          const isLate = toOrder !== null && toOrder < 0;
          const isSoon = due || isLate || (p.daysLeft !== null && p.daysLeft < SOON_DAYS);
          return (
            <li
              key={`${p.kind} ${p.key}`}
              className="flex items-center justify-between gap-x-3 border-b border-line py-1"
            >
              <span className="min-w-0">
                {paceName(p, words)} <span className="text-ink-3">{paceAmount(p, p.onHand, words)}</span>
                {p.reorderAt !== null && (
                  <span className={`block text-[12.5px] ${due ? 'font-semibold text-bad' : 'text-ink-3'}`}>
                    {t(due ? (p.kind === 'bars' ? 'reorder.due.bars' : 'reorder.due') : 'reorder.at', {
                      amount: paceAmount(p, p.reorderAt, words),
                    })}
                  </span>
                )}
                {toOrder !== null && (
                  <span className={`block text-[12.5px] ${isLate ? 'font-semibold text-bad' : 'text-ink-3'}`}>
                    {isLate
                      ? t('reorder.late', { n: p.deliveryDays! })
                      : t('reorder.by', {
                          day: words.day(new Date(now + toOrder * DAY).toISOString()),
                          n: p.deliveryDays!,
                        })}
                  </span>
                )}
              </span>
              <span className="flex items-center gap-1">
                {p.daysLeft !== null && (
                  <span className={`text-right ${isSoon ? 'font-semibold text-bad' : 'text-ink-2'}`}>
                    {isSoon && <span aria-hidden="true">▲ </span>}
                    {p.onHand === 0
                      ? t('runs-out.gone')
                      : `${t('runs-out.in', { weeks: Math.floor(p.daysLeft / 7) })}, ${t('runs-out.day', { day: words.day(new Date(now + p.daysLeft * DAY).toISOString()) })}`}
                  </span>
                )}
                {mayMake && (
                  <button
                    type="button"
                    aria-label={t('reorder.set', { what: paceName(p, words) })}
                    className="grid size-11 shrink-0 place-items-center rounded text-ink-2 hover:bg-panel-2"
                    onClick={() => setSetting(p)}
                  >
                    <Bell
                      size={16}
                      aria-hidden="true"
                      fill={p.reorderAt === null ? 'none' : 'currentColor'}
                    />
                  </button>
                )}
              </span>
            </li>
          );
        })}
      </ul>
      {setting && <ReorderDialog of={setting} onClose={() => setSetting(null)} />}
    </Panel>
  );
}
