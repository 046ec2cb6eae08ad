import { useState } from 'react';
import type { Supply } from '@wunsch/contract';
import { useDoor, useRead } from '../../shell/door.tsx';
import { useMayMake } from '../../shell/session.tsx';
import { useAsked } from '../../shell/useAsked.ts';
import { Button } from '../../ui/Button.tsx';
import { Chip, Panel } from '../../ui/Panel.tsx';
import { Table } from '../../ui/Table.tsx';
import { useWords } from '../../words/words.tsx';
import { ChangeDelivery, ReceiveDelivery } from './DeliveryDialog.tsx';
import { useIngredients } from './useIngredients.ts';

const DAY = 86_400_000;

/** Days before its best-before at which a delivery is pointed out. */
const SOON = 30;

/** Deliveries of ingredients and packaging that are not used up, what runs out of its date first; and taking one in. */
export function Deliveries() {
  const words = useWords();
  const { t } = words;
  const { data: known } = useRead<Supply[]>('/api/supplies');
  const data = known ?? [];
  const shelf = useIngredients();
  // A delivery that declares none of its own has those of its ingredient.
  const allergensOf = (s: Supply) => s.allergens ?? shelf.get(s.ingredientId ?? '')?.allergens ?? [];
  const mayMake = useMayMake();
  const [receiving, setReceiving] = useState(false);
  useAsked('receive', () => setReceiving(true));
  const [changing, setChanging] = useState<Supply | null>(null);
  const [all, setAll] = useState(false);
  const left = data.filter((s) => s.remainingMg > 0);
  const rows = (all ? data : left).toSorted(
    (a, b) =>
      (a.bestBefore ?? '9').localeCompare(b.bestBefore ?? '9') || a.receivedOn.localeCompare(b.receivedOn),
  );
  return (
    <Panel
      title={t('deliveries')}
      aside={mayMake && <Button onClick={() => setReceiving(true)}>{t('deliveries.receive')}</Button>}
    >
      <Table
        caption={t('deliveries')}
        rows={known && rows}
        keyOf={(s) => s.id}
        empty={t('deliveries.none')}
        columns={[
          { id: 'what', title: t('what'), cell: (s) => words.word('ingredient', s.name) },
          {
            id: 'left',
            title: t('deliveries.left'),
            numeric: true,
            cell: (s) =>
              s.arrivedCount === null
                ? `${words.mass(s.remainingMg)} / ${words.mass(s.arrivedMg)}`
                : `${words.number(s.remainingCount ?? 0)} / ${words.number(s.arrivedCount)}`,
          },
          {
            id: 'before',
            title: t('sheet.bestBefore'),
            cell: (s) => (s.bestBefore ? <BestBefore day={s.bestBefore} /> : ''),
          },
          {
            id: 'price',
            title: t('deliveries.price'),
            numeric: true,
            cell: (s) =>
              s.arrivedCount === null
                ? words.priceOrNone(s.pricePerKg)
                : t('deliveries.in-all', {
                    price: words.money(Math.round((s.pricePerKg * s.arrivedMg) / 1e6)),
                  }),
          },
          { id: 'supplier', title: t('deliveries.supplier'), cell: (s) => s.supplier },
          { id: 'number', title: t('deliveries.number'), cell: (s) => s.supplierLot },
          { id: 'came', title: t('lot.received'), cell: (s) => words.day(s.receivedOn) },
          {
            id: 'allergens',
            title: t('machine.allergens'),
            cell: (s) =>
              allergensOf(s)
                .map((a) => words.word('allergen', a))
                .join(', '),
          },
          ...(mayMake
            ? [
                {
                  id: 'do',
                  title: t('change'),
                  cell: (s: Supply) => (
                    <Button look="quiet" onClick={() => setChanging(s)}>
                      {t('change')}
                    </Button>
                  ),
                },
              ]
            : []),
        ]}
      />
      {data.length > left.length && (
        <Button look="quiet" className="mt-2" onClick={() => setAll(!all)}>
          {t(all ? 'deliveries.fewer' : 'deliveries.all', { n: data.length - left.length })}
        </Button>
      )}
      {receiving && <ReceiveDelivery onClose={() => setReceiving(false)} />}
      {changing && <ChangeDelivery of={changing} onClose={() => setChanging(null)} />}
    </Panel>
  );
}

function BestBefore({ day }: { day: string }) {
  const { now } = useDoor();
  const { t, day: written } = useWords();
  const days = (Date.parse(`${day}T12:00:00Z`) - now()) / DAY;
  const text = written(day);
  if (days < 0) return <Chip tone="bad">{t('deliveries.past', { day: text })}</Chip>;
  return days < SOON ? <Chip tone="due">{text}</Chip> : text;
}
