import type { PlanRoomView } from '@wunsch/contract';
import { differencesOf, type Repair, type WorkshopPlan } from '@wunsch/core/plan';
import { Button } from '../ui/Button.tsx';
import { useWords } from '../words/words.tsx';
import { daysWords, orderName } from './names.ts';

/** An order that gains less is not worth a word, ms. */
const HOUR = 3_600_000;

/** What planning anew would win, where it moves more than mending may. */
export function Instead({
  room,
  now,
  instead,
  onLook,
}: {
  room: PlanRoomView;
  now: WorkshopPlan;
  instead: Repair;
  onLook: (repair: Repair) => void;
}) {
  const words = useWords();
  const { t } = words;
  const gains = differencesOf(now.orders, instead.plan.orders)
    .flatMap(({ orderId, before, after }) =>
      before.ready && after.ready
        ? [{ orderId, sooner: Date.parse(before.ready) - Date.parse(after.ready) }]
        : [],
    )
    .filter((g) => g.sooner > HOUR)
    .sort((a, b) => b.sooner - a.sooner);
  const [most] = gains;
  if (!most) return null;
  return (
    <section aria-label={t('plan.instead')} className="rounded border border-line-2 p-3">
      <h2 className="text-[16px]">{t('plan.instead')}</h2>
      <p className="mt-1 text-[13px] text-ink-2">
        {t('plan.instead.text', {
          order: orderName(room, most.orderId, t),
          by: daysWords(most.sooner, words),
          others: gains.length - 1,
          moves: instead.moves.length,
        })}
      </p>
      <Button className="mt-2" onClick={() => onLook(instead)}>
        {t('plan.instead.look')}
      </Button>
    </section>
  );
}
