import { useState } from 'react';
import type { Order, OrderPut, PlanRoomView } from '@wunsch/contract';
import {
  dayOf,
  firstDayFor,
  instantOf,
  type PlannedStep,
  type PlanOrderLine,
  type Promised,
  type Promising,
} from '@wunsch/core/plan';
import { newId } from '../shell/entry.ts';
import { useCustomer } from '../shell/useCustomer.ts';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { Button } from '../ui/Button.tsx';
import { CheckField, SelectField, TextField } from '../ui/Field.tsx';
import { FormDialog } from '../ui/FormDialog.tsx';
import { QuantityField } from '../ui/QuantityField.tsx';
import { useWords } from '../words/words.tsx';
import { planAnswers } from '../workers/plan.ts';
import { Impossible } from './Impossible.tsx';
import { orderName } from './names.ts';
import { newLine, OrderLines, type LineWish } from './OrderLines.tsx';
import { SURE } from './OrderMarks.tsx';
import type { PlanHere } from './usePlan.ts';

const NEW = 'new';

/** Local midnight at the end of a working day, as an instant: bars are wanted by five. */
const DUE_MINUTE = 17 * 60;

/** A new order, or one that is changed: what it wants, and what can be promised. */
export function OrderDialog({
  room,
  here,
  order,
  onClose,
}: {
  room: PlanRoomView;
  here: PlanHere | null;
  order?: Order;
  onClose: () => void;
}) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const [id] = useState(() => order?.id ?? newId());
  const [customerId, setCustomerId] = useState(order?.customerId ?? room.customers[0]?.id ?? NEW);
  const [customer, setCustomer] = useState('');
  const [title, setTitle] = useState(order?.title ?? '');
  const [kind, setKind] = useState<NonNullable<OrderPut['kind']>>(order?.kind ?? 'order');
  const [lines, setLines] = useState<readonly LineWish[]>(() => order?.lines ?? [newLine(room)]);
  const [day, setDay] = useState(order ? dayOf(Date.parse(order.due), room.timeZone) : '');
  const dueAt = (on: string) => instantOf(on, DUE_MINUTE, room.timeZone);
  const [spare, setSpare] = useState(order?.spare ?? false);
  const [weight, setWeight] = useState<number | null>(order?.weight ?? 1);
  const [asked, setAsked] = useState<{
    key: string;
    answer: Promising | null;
    problem: Error | null;
  } | null>(null);
  const missing = lines.some((l) => !l.recipeId)
    ? 'plan.missing.recipe'
    : lines.some((l) => !l.bars)
      ? 'plan.missing.bars'
      : !day
        ? 'plan.missing.day'
        : customerId === NEW && !customer.trim() && !title.trim()
          ? 'plan.missing.customer'
          : null;
  const keyOf = (withSpare: boolean) => JSON.stringify([lines, day, weight, withSpare]);
  const key = keyOf(spare);
  const answer = asked?.key === key ? asked.answer : null;
  const problem = asked?.key === key ? asked.problem : null;
  const isAsking = asked?.key === key && answer === null && problem === null;
  // Whoever has no day yet asks for the earliest.
  const mayAsk = lines.every((l) => l.recipeId && l.bars);
  const ask = (withSpare: boolean) => {
    if (!here?.plan || !mayAsk) return;
    const wanted = lines.map((l): PlanOrderLine => ({
      id: `${id}:${l.id}`,
      orderId: id,
      customer: title || customer,
      due: day ? dueAt(day) : room.now,
      weight: weight ?? 1,
      recipeId: l.recipeId,
      lotId: l.lotId,
      bars: l.bars!,
      kind: 'order',
      spare: withSpare,
    }));
    const others = { ...room, orders: room.orders.filter((o) => o.orderId !== id) };
    const asking = keyOf(withSpare);
    setAsked({ key: asking, answer: null, problem: null });
    const steps = here.plan.steps as PlannedStep[];
    planAnswers
      .ask<Promising>((thread) => thread.promise(others, steps, wanted, here.pins))
      .then(
        (found) => setAsked({ key: asking, answer: found, problem: null }),
        (error: unknown) => setAsked({ key: asking, answer: null, problem: error as Error }),
      );
  };
  const customerCalled = useCustomer(room.customers, (fresh, body) =>
    send({
      path: `/api/customers/${fresh}`,
      body,
      label: t('done.plan.customer', { name: body.name }),
      undo: true,
    }),
  );
  const save = async (state: NonNullable<OrderPut['state']> = 'open') => {
    if (missing) return;
    const whose = customerId !== NEW ? customerId : customer.trim() ? await customerCalled(customer) : null;
    const body: OrderPut = {
      kind,
      customerId: whose,
      title,
      due: dueAt(day),
      weight: weight ?? 1,
      lines: lines.map((l) => ({ ...l, bars: l.bars! })),
      note: order?.note ?? '',
      ...(spare && { spare }),
      state,
    };
    await send({
      path: `/api/orders/${id}`,
      body,
      ...(order && { ifMatch: order.version }),
      label: t('done.plan.order', { bars: lines.reduce((sum, l) => sum + (l.bars ?? 0), 0) }),
      undo: true,
    });
  };
  return (
    <FormDialog
      title={t(order ? 'plan.change-order' : 'plan.new-order')}
      submit={t(order ? 'plan.save-order' : 'plan.promise')}
      isReady={missing === null}
      onSubmit={() => save()}
      also={({ busy, run }) => (
        <>
          {here && (
            <Button big onClick={() => ask(spare)} disabled={!mayAsk || isAsking || !here.plan}>
              {t(isAsking ? 'plan.asking' : 'plan.ask')}
            </Button>
          )}
          {order && order.state === 'open' && (
            <>
              <Button big disabled={busy} onClick={() => run(() => save('delivered'))}>
                {t('plan.delivered')}
              </Button>
              <Button look="danger" big disabled={busy} onClick={() => run(() => save('withdrawn'))}>
                {t('plan.withdraw')}
              </Button>
            </>
          )}
          {missing && <p className="self-center text-[13px] text-ink-2">{t(missing)}</p>}
        </>
      )}
      onClose={onClose}
      wide
    >
      <div className="grid gap-3 sm:grid-cols-2">
        <SelectField
          label={t('plan.customer')}
          value={customerId}
          onChange={(e) => setCustomerId(e.target.value)}
        >
          {room.customers.map((c) => (
            <option key={c.id} value={c.id}>
              {c.name}
            </option>
          ))}
          <option value={NEW}>{t('plan.customer.new')}</option>
        </SelectField>
        {customerId === NEW ? (
          <TextField
            label={t('plan.customer.name')}
            value={customer}
            onChange={(e) => setCustomer(e.target.value)}
            maxLength={120}
          />
        ) : (
          <TextField
            label={t('plan.for')}
            value={title}
            onChange={(e) => setTitle(e.target.value)}
            maxLength={120}
          />
        )}
      </div>
      <OrderLines room={room} lines={lines} onChange={setLines} />
      <div className="grid gap-3 sm:grid-cols-3">
        <TextField
          label={t('plan.wanted')}
          type="date"
          value={day}
          onChange={(e) => setDay(e.target.value)}
        />
        <SelectField
          label={t('plan.kind')}
          value={kind}
          onChange={(e) => setKind(e.target.value as typeof kind)}
        >
          {(['order', 'sample', 'class'] as const).map((k) => (
            <option key={k} value={k}>
              {t(`plan.kind.${k}`)}
            </option>
          ))}
        </SelectField>
        <QuantityField
          label={t('plan.weight')}
          dimension="number"
          value={weight}
          onChange={setWeight}
          min={0.1}
          max={10}
        />
      </div>
      <CheckField label={t('plan.spare')} checked={spare} onChange={setSpare} />
      {answer && (
        <PromiseAnswer
          room={room}
          answer={answer}
          wanted={day ? dueAt(day) : null}
          onSpare={spare ? null : () => (setSpare(true), ask(true))}
          onTake={(at) => setDay(firstDayFor(Date.parse(at), DUE_MINUTE, room.timeZone))}
        />
      )}
      {problem && <Impossible room={room} problem={problem} className="text-[13px]" />}
    </FormDialog>
  );
}

/** What can be promised, and what it would push. */
function PromiseAnswer({
  room,
  answer: { behind, before },
  wanted,
  onSpare,
  onTake,
}: {
  room: PlanRoomView;
  answer: Promising;
  /** When it is wanted; null while nobody has said. */
  wanted: string | null;
  /** Has some made to spare, and asks again; null where that is so. */
  onSpare: (() => void) | null;
  /** Takes the day by which it is ready in four of five cases. */
  onTake: (at: string) => void;
}) {
  const words = useWords();
  const { t } = words;
  const told = (p: Promised, name: 'behind' | 'before') => (
    <div className="min-w-0 rounded border border-line-2 p-3">
      <h3 className="text-[13px] font-semibold text-ink-3">{t(`plan.promise.${name}`)}</h3>
      <p className="mt-1 font-head text-[24px] font-bold leading-tight">
        {p.at80 === null
          ? t('plan.promise.never')
          : Date.parse(p.at80) - Date.parse(room.now) < 15 * 60_000
            ? t('plan.promise.now')
            : words.when(p.at80)}
      </p>
      <p className="text-[12.5px] text-ink-3">
        {p.at50 && Date.parse(p.at50) - Date.parse(room.now) >= 15 * 60_000
          ? t('plan.promise.at', { day: words.when(p.at50) })
          : ''}
      </p>
      {wanted !== null && (
        <p className="mt-1 text-[13.5px]">
          {t('plan.promise.chance', { day: words.when(wanted), chance: words.chance(p.chance) })}
        </p>
      )}
      {p.at80 !== null && p.enough < SURE && (
        <>
          <p className="mt-1 text-[13.5px] font-semibold">
            {t('plan.promise.scarce', { chance: words.chance(p.enough) })}
          </p>
          {onSpare && <Button onClick={onSpare}>{t('plan.spare.make')}</Button>}
        </>
      )}
      {p.pushed.length === 0 ? (
        <p className="text-[13px] text-ink-2">{t('plan.promise.nobody')}</p>
      ) : (
        <ul className="mt-1 text-[13px]">
          {p.pushed.map((x) => (
            <li key={x.orderId}>
              {t('plan.promise.pushes', {
                order: orderName(room, x.orderId, t),
                before: words.percent(x.before, 0),
                after: words.percent(x.after, 0),
              })}
            </li>
          ))}
        </ul>
      )}
      {p.at80 !== null && p.chance < 0.8 && (
        <Button className="mt-2" onClick={() => onTake(p.at80!)}>
          {t('plan.promise.take')}
        </Button>
      )}
    </div>
  );
  return (
    <div aria-live="polite" className="grid gap-2 sm:grid-cols-2">
      {told(behind, 'behind')}
      {before && told(before, 'before')}
    </div>
  );
}
