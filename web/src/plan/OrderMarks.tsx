import type { PlanRoomView } from '@wunsch/contract';
import { isLate, keptChance, type PlannedOrder } from '@wunsch/core/plan';
import { useWords } from '../words/words.tsx';
import { orderName } from './names.ts';
import type { Scale } from './scale.ts';

/** Chance from which an order counts as sure enough. */
export const SURE = 0.8;

/** Orders where they are ready, apart from each other. */
function orderMarks(orders: readonly PlannedOrder[], scale: Scale): { order: PlannedOrder; y: number }[] {
  let last = -Infinity;
  return orders
    .filter((o) => o.ready !== null && Date.parse(o.ready) >= scale.from && Date.parse(o.ready) <= scale.to)
    .sort((a, b) => a.ready!.localeCompare(b.ready!))
    .map((order) => {
      last = Math.max(scale.y(Date.parse(order.ready!)) + 2, last + 32);
      return { order, y: last };
    });
}

/** Orders at the foot of the last column, each where its bars are ready, with its chance to have all of them in time. */
export function OrderMarks({
  room,
  orders,
  scale,
  width,
}: {
  room: PlanRoomView;
  orders: readonly PlannedOrder[];
  scale: Scale;
  /** Of a column, as CSS. */
  width: string;
}) {
  const words = useWords();
  const { t } = words;
  return orderMarks(orders, scale).map(({ order, y }) => {
    const chance = keptChance(order);
    return (
      <div
        key={order.orderId}
        className={`pointer-events-none absolute overflow-hidden border-b-2 bg-panel/90 px-1 text-[11.5px] leading-[14px] ${isLate(order) ? 'border-bad' : 'border-ink'}`}
        style={{
          top: y,
          left: `calc(100% - ${width} + 3px)`,
          width: `calc(${width} - 6px)`,
        }}
      >
        <span className="block truncate font-semibold">{orderName(room, order.orderId, t)}</span>
        <span className="flex gap-1">
          <span className="min-w-0 truncate text-ink-2">{order.codes.join(', ')}</span>
          {chance !== null && (
            <span
              className={`ml-auto shrink-0 ${isLate(order) || chance < SURE ? 'font-bold text-bad' : 'text-ink-2'}`}
            >
              {words.chance(chance)}
            </span>
          )}
        </span>
      </div>
    );
  });
}
