import type { PlanRoomView } from '@wunsch/contract';
import { dayOf, missingFrom, type MaterialNeed, type PlannedStep } from '@wunsch/core/plan';
import { useWords } from '../words/words.tsx';
import { dayName } from './names.ts';

const DAY = 86_400_000;

/** Most rows shown. */
const ROWS = 8;

/** Days until something ordered is there: what was said of itself, else of its sort, else of all. */
function daysToCome(room: PlanRoomView, { kind, id }: Pick<MaterialNeed, 'kind' | 'id'>): number {
  if (kind === 'beans') return room.beanDeliveryDays ?? room.deliveryDays;
  return room.deliveries.find((d) => d.kind === kind && d.key === id)?.days ?? room.deliveryDays;
}

/** What is short for everything promised: how much, out of which range, and by when it is to be ordered; and what is needed of what nobody counts. */
export function Short({
  room,
  materials,
  steps,
}: {
  room: PlanRoomView;
  materials: readonly MaterialNeed[];
  steps: readonly PlannedStep[];
}) {
  const words = useWords();
  const { t } = words;
  const short = materials.filter((m) => m.short > 0);
  const uncounted = materials.filter((m) => m.onHand === null && m.need > 0);
  if (short.length + uncounted.length === 0) return null;
  const day = (ms: number) => dayName(dayOf(ms, room.timeZone), words, true);
  const amount = (m: MaterialNeed, of: number) =>
    m.kind === 'packaging' ? t('plan.short.pieces', { n: Math.ceil(of) }) : words.mass(Math.round(of));
  const when = (m: MaterialNeed): { text: string; isLate: boolean } | null => {
    const from = missingFrom(m, steps);
    if (from === null) return null;
    const orderBy = Date.parse(from) - daysToCome(room, m) * DAY;
    const isLate = orderBy < Date.parse(room.now);
    return {
      isLate,
      text: isLate
        ? t('plan.short.order-now', { day: day(Date.parse(from)) })
        : t('plan.short.order-by', { day: day(orderBy) }),
    };
  };
  return (
    <section>
      {short.length > 0 && <h2 className="text-[13px] font-semibold text-ink-3">{t('plan.short')}</h2>}
      <ul className="mt-1">
        {short.slice(0, ROWS).map((m) => {
          const by = when(m);
          return (
            <li
              key={`${m.kind} ${m.id}`}
              className="grid grid-cols-[1fr_auto] gap-x-3 border-b border-line py-1 text-[13.5px]"
            >
              <span className="min-w-0 truncate">
                {m.kind === 'ingredient' ? words.word('ingredient', m.name) : m.name}
              </span>
              <span className="num text-bad">{amount(m, m.short)}</span>
              {by && (
                <span className={`text-[12.5px] ${by.isLate ? 'font-semibold text-bad' : 'text-ink-2'}`}>
                  {by.text}
                </span>
              )}
              {m.range80 && (
                <span className="num col-start-2 text-[12.5px] text-ink-3">
                  {t('plan.short.range', { low: amount(m, m.range80[0]), high: amount(m, m.range80[1]) })}
                </span>
              )}
            </li>
          );
        })}
      </ul>
      {uncounted.length > 0 && (
        <p className="mt-1 text-[12.5px] text-ink-3">
          {t('plan.short.uncounted', {
            what: uncounted.map((m) => `${words.word('ingredient', m.name)} ${amount(m, m.need)}`).join(', '),
          })}
        </p>
      )}
    </section>
  );
}
