import { useState } from 'react';
import type { CustomerBook, StockItem } from '@wunsch/contract';
import { keepsUntil, oldestFirst } from '@wunsch/core/ledger';
import { useRead } from '../../shell/door.tsx';
import { newId } from '../../shell/entry.ts';
import { useCustomer } from '../../shell/useCustomer.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { SelectField, TextField } from '../../ui/Field.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { PriceField } from '../../ui/PriceField.tsx';
import { MoneyField } from '../../ui/QuantityField.tsx';
import { today } from '../../stations/today.ts';
import { useWords } from '../../words/words.tsx';
import { AmountField, isNamed, type Amount } from '../stock/AmountField.tsx';
import { calledOf, originOf } from '../stock/names.ts';

const NEW = 'new';

type BookOrder = CustomerBook['orders'][number];

interface Line extends Amount {
  item: StockItem;
  price: number;
}

/** Bars that fit a line of an order; what is set aside may not go out. */
const fitting = (wanted: BookOrder['lines'][number], stock: readonly StockItem[]) =>
  stock.filter(
    (i) =>
      i.material === 'bars' &&
      !i.onHold &&
      (i.count ?? 0) > 0 &&
      i.recipeId === wanted.recipeId &&
      (wanted.lotId === null || i.batchLotId === wanted.lotId),
  );

/** What an order still wants, off the shelf: of its own lot where it names one, and what keeps shortest first. */
export function linesFor(order: BookOrder, stock: readonly StockItem[], day: string): Line[] {
  const taken = new Map<string, Line>();
  for (const wanted of order.lines) {
    const free = fitting(wanted, stock).map(({ id, count, bestBefore, madeAt }) => ({
      id,
      count: count! - (taken.get(id)?.count ?? 0),
      bestBefore,
      madeAt,
    }));
    for (const { id, count } of oldestFirst(free, wanted.bars, day)) {
      const known = taken.get(id);
      if (known) known.count = (known.count ?? 0) + count;
      else
        taken.set(id, {
          item: stock.find((i) => i.id === id)!,
          count,
          massMg: null,
          price: wanted.price ?? 0,
        });
    }
  }
  return [...taken.values()];
}

/** Bars that fit an order and are past their best before: they stay, unless they are added by hand. */
const tooOldFor = (order: BookOrder, stock: readonly StockItem[], day: string): number => {
  const fits = new Set(order.lines.flatMap((l) => fitting(l, stock)));
  return [...fits].reduce((n, i) => n + (keepsUntil(i.bestBefore, day) ? 0 : i.count!), 0);
};

/** Whether something on hand may go out to a customer. */
export const mayGoOut = (item: StockItem): boolean =>
  !item.onHold && item.material !== 'packaging' && item.material !== 'ingredient';

const lineOf = (item: StockItem): Line => ({
  item,
  count: item.count,
  massMg: item.count === null ? item.remainingMg : null,
  price: 0,
});

/** Delivering to a customer: what an order still wants stands ready, oldest first; anything else on hand can go with it. */
export function DeliverDialog({
  stock,
  chosen,
  orderId: first,
  onClose,
  onDone,
}: {
  stock: readonly StockItem[];
  chosen: readonly StockItem[];
  orderId?: string;
  onClose: () => void;
  onDone: () => void;
}) {
  const { t } = useWords();
  const { data: book } = useRead<CustomerBook>('/api/customers');
  if (!book)
    return (
      <Dialog open onClose={onClose} title={t('deliver.title')}>
        <p className="text-ink-3">{t('loading')}</p>
      </Dialog>
    );
  return (
    <Form book={book} stock={stock} chosen={chosen} first={first ?? null} onClose={onClose} onDone={onDone} />
  );
}

function Form({
  book,
  stock,
  chosen,
  first,
  onClose,
  onDone,
}: {
  book: CustomerBook;
  stock: readonly StockItem[];
  chosen: readonly StockItem[];
  first: string | null;
  onClose: () => void;
  onDone: () => void;
}) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const firstOrder = book.orders.find((o) => o.id === first) ?? null;
  // A market or a party is promised to nobody who is known yet: its name is the first guess.
  const [customerId, setCustomerId] = useState(
    firstOrder ? (firstOrder.customerId ?? NEW) : (book.customers[0]?.id ?? NEW),
  );
  const [name, setName] = useState(firstOrder?.customerId === null ? firstOrder.title : '');
  const [orderId, setOrderId] = useState(firstOrder?.id ?? '');
  const [note, setNote] = useState('');
  const [lines, setLines] = useState<Line[]>(() =>
    firstOrder ? linesFor(firstOrder, stock, today()) : chosen.map(lineOf),
  );
  const ordersOf = (whose: string) =>
    book.orders.filter((o) => (o.customerId === null || o.customerId === whose) && o.lines.length > 0);
  const orders = ordersOf(customerId);
  const order = orders.find((o) => o.id === orderId) ?? null;
  const wanted = order?.lines.reduce((sum, l) => sum + l.bars, 0) ?? 0;
  const tooOld = order ? tooOldFor(order, stock, today()) : 0;
  const isTooOld = (i: StockItem) => !keepsUntil(i.bestBefore, today());
  const going = lines.reduce((sum, l) => sum + (l.count ?? 0), 0);
  const others = stock.filter((i) => mayGoOut(i) && !lines.some((l) => l.item.id === i.id));
  const nameOf = (i: StockItem) =>
    [
      originOf(i),
      calledOf(i, words) || words.word('material', i.material),
      i.recipeName,
      i.place,
      isTooOld(i) && t('deliver.too-old', { day: words.day(i.bestBefore!) }),
    ]
      .filter(Boolean)
      .join(' · ');
  const total = lines.reduce((sum, l) => sum + l.price * (l.count ?? (l.massMg ?? 0) / 1e6), 0);
  const isReady =
    lines.length > 0 && lines.every((l) => isNamed(l.item, l)) && (customerId !== NEW || name.trim() !== '');
  const choose = (id: string) => {
    setOrderId(id);
    const next = orders.find((o) => o.id === id);
    if (next) setLines(linesFor(next, stock, today()));
  };
  const change = (id: string, part: Partial<Line>) =>
    setLines((old) => old.map((l) => (l.item.id === id ? { ...l, ...part } : l)));
  const customerCalled = useCustomer(book.customers, (id, body) =>
    send({
      path: `/api/customers/${id}`,
      body,
      label: t('done.customer.put', { name: body.name }),
      quiet: true,
    }),
  );
  const go = async () => {
    const to = customerId === NEW ? await customerCalled(name) : customerId;
    await send({
      path: `/api/deliveries/${newId()}`,
      body: {
        customerId: to,
        orderId: order?.id ?? null,
        note,
        lines: lines.map((l) => ({
          parcelId: l.item.id,
          ...(l.item.count === null ? { massMg: l.massMg } : { count: l.count }),
          price: l.price > 0 ? l.price : null,
          stepId: newId(),
          takenId: newId(),
          lossId: newId(),
        })),
      },
      label: t('done.deliver', {
        what:
          going > 0
            ? t('pieces.n', { n: going })
            : words.mass(lines.reduce((s, l) => s + (l.massMg ?? 0), 0)),
        to: book.customers.find((c) => c.id === to)?.name ?? name.trim(),
      }),
      undo: true,
    });
    onDone();
  };
  return (
    <FormDialog
      wide
      onClose={onClose}
      title={t('deliver.title')}
      description={t('deliver.text')}
      submit={t('deliver')}
      isReady={isReady}
      onSubmit={go}
    >
      <div className="grid gap-3 sm:grid-cols-2">
        <SelectField
          label={t('deliver.to')}
          value={customerId}
          onChange={(e) => {
            const whose = e.target.value;
            setCustomerId(whose);
            if (!ordersOf(whose).some((o) => o.id === orderId)) setOrderId('');
          }}
        >
          {book.customers.map((c) => (
            <option key={c.id} value={c.id}>
              {c.name}
            </option>
          ))}
          <option value={NEW}>{t('deliver.new')}</option>
        </SelectField>
        {customerId === NEW && (
          <TextField
            label={t('deliver.name')}
            value={name}
            onChange={(e) => setName(e.target.value)}
            maxLength={120}
            required
          />
        )}
        {(customerId !== NEW || orders.length > 0) && (
          <SelectField
            label={t('deliver.order')}
            value={order?.id ?? ''}
            onChange={(e) => choose(e.target.value)}
          >
            <option value="">{t('deliver.no-order')}</option>
            {orders.map((o) => (
              <option key={o.id} value={o.id}>
                {t('deliver.order.of', {
                  name: o.title || t('plan.order.n', { n: o.number }),
                  n: o.lines.reduce((sum, l) => sum + l.bars, 0),
                  day: words.day(o.due),
                })}
              </option>
            ))}
          </SelectField>
        )}
      </div>
      {lines.length > 0 && (
        <ul className="grid gap-2">
          {lines.map((l) => (
            <li
              key={l.item.id}
              className="grid items-end gap-2 border-t border-line pt-2 sm:grid-cols-[1fr_110px_130px_auto]"
            >
              <span className="min-w-0 self-center text-[14px]">
                {nameOf(l.item)}
                <span className="block text-[12.5px] text-ink-3">
                  {l.item.count === null
                    ? t('there', { mass: words.mass(l.item.remainingMg) })
                    : t('deliver.there', { n: l.item.count })}
                  {l.item.bestBefore &&
                    !isTooOld(l.item) &&
                    ` · ${t('best-before')} ${words.day(l.item.bestBefore)}`}
                </span>
              </span>
              <AmountField
                there={{ count: l.item.count, massMg: l.item.remainingMg }}
                value={l}
                onChange={(amount) => change(l.item.id, amount)}
              />
              {l.item.count === null ? (
                <PriceField
                  label={t('deliver.price.kg', { unit: words.heavyUnit })}
                  value={l.price}
                  onChange={(price) => change(l.item.id, { price })}
                />
              ) : (
                <MoneyField
                  label={t('deliver.price')}
                  value={l.price}
                  onChange={(price) => change(l.item.id, { price })}
                />
              )}
              <Button look="quiet" onClick={() => setLines((old) => old.filter((x) => x !== l))}>
                {t('deliver.without')}
              </Button>
            </li>
          ))}
        </ul>
      )}
      {others.length > 0 && (
        <SelectField
          label={t('deliver.add')}
          value=""
          onChange={(e) => {
            const item = others.find((i) => i.id === e.target.value);
            if (item) setLines((old) => [...old, lineOf(item)]);
          }}
        >
          <option value="">{t('deliver.add.choose')}</option>
          {others.map((i) => (
            <option key={i.id} value={i.id}>
              {`${nameOf(i)}, ${i.count === null ? words.mass(i.remainingMg) : words.number(i.count)}`}
            </option>
          ))}
        </SelectField>
      )}
      <TextField
        label={t('deliver.note')}
        value={note}
        onChange={(e) => setNote(e.target.value)}
        maxLength={400}
      />
      <p className="text-[13.5px] text-ink-2" aria-live="polite">
        {order && going < wanted ? `${t('deliver.short', { n: wanted - going })} ` : ''}
        {tooOld > 0 && `${t('deliver.left', { n: tooOld })} `}
        {total > 0 && t('deliver.total', { money: words.money(total) })}
      </p>
    </FormDialog>
  );
}
