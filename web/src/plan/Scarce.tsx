import type { Order, OrderPut, PlanRoomView } from '@wunsch/contract';
import type { PlannedOrder } from '@wunsch/core/plan';
import { useMayMake } from '../shell/session.tsx';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { Button } from '../ui/Button.tsx';
import { useWords } from '../words/words.tsx';
import { orderName } from './names.ts';
import { SURE } from './OrderMarks.tsx';

/** Most orders named; the others are counted. */
const NAMED = 3;

/** Promises whose batches may give too few bars, with how surely they are enough, and a way to have more made for them. */
export function Scarce({ room, orders }: { room: PlanRoomView; orders: readonly PlannedOrder[] }) {
  const words = useWords();
  const { t } = words;
  const mayMake = useMayMake();
  const send = useEntryHere();
  const scarce = orders.filter((o) => o.unmade === 0 && (o.enough ?? 1) < SURE);
  if (scarce.length === 0) return null;
  const spare = ({ id, version, number: _, createdAt: __, ...order }: Order, name: string) =>
    send({
      path: `/api/orders/${id}`,
      body: { ...order, spare: true } satisfies OrderPut,
      ifMatch: version,
      label: t('done.plan.spare', { name }),
      undo: true,
    }).catch(() => undefined);
  return (
    <ul
      aria-label={t('plan.scarce')}
      className="mx-3 mb-2 grid gap-1 border-l-4 border-signal bg-panel px-3 py-1 text-[13.5px] sm:mx-4"
    >
      {scarce.slice(0, NAMED).map((o) => {
        const order = room.allOrders.find(({ id }) => id === o.orderId);
        const name = orderName(room, o.orderId, t);
        return (
          <li key={o.orderId} className="flex min-h-11 flex-wrap items-center gap-x-4 gap-y-1">
            <span className="min-w-0 flex-1 basis-56">
              <b>{name}</b>{' '}
              {t(o.spareBy ? 'plan.scarce.late' : order?.spare ? 'plan.scarce.still' : 'plan.scarce.of', {
                chance: words.chance(o.enough!),
                by: o.spareBy ? words.when(o.spareBy) : '',
              })}
            </span>
            {mayMake && order && !order.spare && (
              <Button
                className="no-print"
                aria-label={t('plan.spare.for', { name })}
                onClick={() => void spare(order, name)}
              >
                {t('plan.spare.make')}
              </Button>
            )}
          </li>
        );
      })}
      {scarce.length > NAMED && (
        <li className="py-1 text-ink-2">{t('plan.scarce.more', { n: scarce.length - NAMED })}</li>
      )}
    </ul>
  );
}
