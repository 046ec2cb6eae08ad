import type { PlanRoomView } from '@wunsch/contract';
import { useWords } from '../words/words.tsx';
import { dayName } from './names.ts';
import type { BoardDay, Scale } from './scale.ts';

/** Hours of a day at which a person’s bar is full. */
const FULL = 8;

/** People there is room for beside a day. */
const ROOM = 4;

/** Who is shown beside a day: everybody where there is room; else those who have something to do, most first. */
function shownOf(people: PlanRoomView['people'], hours: ReadonlyMap<string, number> | undefined) {
  if (people.length <= ROOM) return { shown: people, more: 0 };
  const busy = people
    .filter((p) => (hours?.get(p.id) ?? 0) > 0)
    .sort((a, b) => hours!.get(b.id)! - hours!.get(a.id)!);
  // The last line says how many more there are.
  const shown = busy.length <= ROOM ? busy : busy.slice(0, ROOM - 1);
  return { shown, more: busy.length - shown.length };
}

/** A day beside the board: its name, and how much each person has to do. */
export function DayHead({
  day,
  scale,
  isFirstOfMonth,
  people,
  hours,
  isNarrow,
}: {
  day: BoardDay;
  scale: Scale;
  isFirstOfMonth: boolean;
  people: PlanRoomView['people'];
  hours: ReadonlyMap<string, number> | undefined;
  isNarrow: boolean;
}) {
  const words = useWords();
  const { t } = words;
  const name = dayName(day.day, words, isFirstOfMonth && !isNarrow);
  const isMonday = new Date(`${day.day}T12:00:00Z`).getUTCDay() === 1;
  const isSmall = scale.zoom === 'month' || scale.zoom === 'season';
  const { shown, more } = shownOf(people, hours);
  const showName = scale.zoom !== 'season' || isMonday || isFirstOfMonth;
  return (
    <>
      <div
        aria-hidden="true"
        className={`absolute inset-x-0 ${day.closed ? 'bg-line/55' : 'bg-panel'}`}
        style={{ top: day.top, height: day.height }}
      />
      {!day.closed && (
        <div
          aria-hidden="true"
          className="absolute inset-x-0 border-y border-line bg-line/55"
          style={{ top: day.top + day.height, height: nightBelow(day, scale) }}
        />
      )}
      {showName && (
        <div
          className="absolute left-0 overflow-hidden px-2"
          style={{ top: day.top, width: 'var(--days)', height: Math.max(day.height, isSmall ? 15 : 20) }}
        >
          <div
            className={`flex items-baseline justify-between font-head font-bold leading-tight ${isSmall ? 'text-[11.5px]' : day.closed ? 'text-[13px]' : 'text-[15.5px]'}`}
          >
            <span className="truncate">{name}</span>
            {day.closed && !isSmall && (
              <span className="font-body text-[12px] font-normal text-ink-3">{t('plan.closed')}</span>
            )}
          </div>
          {!day.closed && !isSmall && !isNarrow && day.height > 56 && (
            <ul className="mt-0.5">
              {shown.map((p) => {
                const own = hours?.get(p.id) ?? 0;
                return (
                  <li
                    key={p.id}
                    className="grid grid-cols-[26px_1fr_34px] items-center gap-1 text-[11.5px] leading-[14px] text-ink-3"
                  >
                    <span>{p.initials}</span>
                    <span aria-hidden="true" className="block h-1.5 bg-line">
                      <span
                        className="block h-full bg-(--violet-text) opacity-60"
                        style={{ width: `${Math.min(100, (own / FULL) * 100)}%` }}
                      />
                    </span>
                    <span className="num text-right">
                      {own > 0 ? t('plan.hours', { h: words.number(own, own % 1 === 0 ? 0 : 1) }) : ''}
                    </span>
                  </li>
                );
              })}
              {more > 0 && (
                <li className="text-[11.5px] leading-[14px] text-ink-3">
                  {t('plan.more-people', { n: more })}
                </li>
              )}
            </ul>
          )}
        </div>
      )}
    </>
  );
}

/** Height of the fold below a day. */
function nightBelow(day: BoardDay, scale: Scale): number {
  const next = scale.days[scale.days.indexOf(day) + 1];
  return Math.max(0, (next ? next.top : scale.height) - day.top - day.height);
}
