import type { PlanRoomView } from '@wunsch/contract';
import type { Difference } from '@wunsch/core/plan';
import { Table } from '../ui/Table.tsx';
import { useWords } from '../words/words.tsx';
import { orderName } from './names.ts';

const HOUR = 3_600_000;

/** Chance by which an order has to differ to be told as better or worse. */
const NOTABLE = 0.05;

/** Every order by one plan and by another; what fares worse stands out. */
export function Differences({
  room,
  differences,
  caption,
}: {
  room: PlanRoomView;
  differences: readonly Difference[];
  caption: string;
}) {
  const words = useWords();
  const { t } = words;
  const told = (o: Difference['before']) =>
    [
      ...(o.unmade > 0 ? [t('plan.unmade', { n: o.unmade })] : []),
      ...(o.ready ? [words.when(o.ready)] : o.unmade > 0 ? [] : [t('plan.in-stock')]),
      ...(o.chance !== null && o.ready ? [words.chance(o.chance)] : []),
    ].join(' · ');
  return (
    <Table
      caption={caption}
      rows={differences}
      keyOf={(d) => d.orderId}
      columns={[
        { id: 'order', title: t('plan.order'), cell: (d) => orderName(room, d.orderId, t) },
        { id: 'before', title: t('plan.as-planned'), cell: (d) => told(d.before) },
        {
          id: 'after',
          title: t('plan.then'),
          cell: (d) => <span className={isWorse(d) ? 'font-semibold text-bad' : ''}>{told(d.after)}</span>,
        },
      ]}
    />
  );
}

/** Whether an order fares notably worse. */
export const isWorse = ({ before, after }: Difference): boolean =>
  after.unmade > before.unmade ||
  (before.chance ?? 1) - (after.chance ?? 1) > NOTABLE ||
  (before.ready !== null &&
    after.ready !== null &&
    Date.parse(after.ready) - Date.parse(before.ready) > HOUR);

/** Whether an order fares notably otherwise, better or worse. */
export const isOther = (d: Difference): boolean =>
  isWorse(d) || isWorse({ ...d, before: d.after, after: d.before });
