import { useState } from 'react';
import { Link } from 'react-router';
import type { Order, PlanRoomView } from '@wunsch/contract';
import { keepsUntil } from '@wunsch/core/ledger';
import { dayOf, keptChance, type WorkshopPlan } from '@wunsch/core/plan';
import { useMayMake, useSession } from '../shell/session.tsx';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { BookTable } from '../ui/BookTable.tsx';
import { Button } from '../ui/Button.tsx';
import { Chip, Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';
import { AbsenceDialog } from './AbsenceDialog.tsx';
import { AimDialog } from './AimDialog.tsx';
import { HoursDialog } from './HoursDialog.tsx';
import { orderName, whoName } from './names.ts';
import { OrderDialog } from './OrderDialog.tsx';

/** A row of what is wanted: an order, or a class whose chocolate is to be made. */
interface Wanted {
  id: string;
  due: string;
  state: Order['state'];
  /** Null for a class. */
  order: Order | null;
  lines: readonly { bars: number; recipeId: string; lotId: string | null }[];
}

/** What is promised, what is kept in stock, and who is away: below the board. */
export function PlanRecords({
  room,
  plan,
  isReckoned,
}: {
  room: PlanRoomView;
  plan: WorkshopPlan | null;
  /** Whether it is known that there is a plan, or none. */
  isReckoned: boolean;
}) {
  const words = useWords();
  const { t } = words;
  const mayMake = useMayMake();
  const { person } = useSession();
  const send = useEntryHere();
  const [changing, setChanging] = useState<Order | null>(null);
  const [asking, setAsking] = useState<'aim' | 'absence' | 'hours' | null>(null);
  const [aimId, setAimId] = useState<string | null>(null);
  const planned = new Map(plan?.orders.map((o) => [o.orderId, o]));
  const recipeName = (id: string) => room.recipes.find((r) => r.id === id)?.name ?? '';
  const lotCode = (id: string | null) => room.lots.find((l) => l.id === id)?.code;
  const rows: Wanted[] = [
    ...room.allOrders.map((o) => ({ id: o.id, due: o.due, state: o.state, order: o, lines: o.lines })),
    ...room.classes.map((c) => ({
      id: c.id,
      due: c.startsAt,
      state: 'open' as const,
      order: null,
      lines: [{ bars: c.bars, recipeId: c.recipeId, lotId: null }],
    })),
  ].sort((a, b) => a.due.localeCompare(b.due));
  const stateOf = (o: Wanted) => {
    if (o.state !== 'open') return <span className="text-ink-3">{t(`plan.state.${o.state}`)}</span>;
    if (!isReckoned) return '…';
    const p = planned.get(o.id);
    if (!p) return <Chip tone="bad">{t('plan.not-planned')}</Chip>;
    if (p.unmade > 0) return <Chip tone="bad">{t('plan.unmade', { n: p.unmade })}</Chip>;
    if (p.ready === null) return <Chip tone="ok">{t('plan.in-stock')}</Chip>;
    const late = p.ready > p.due;
    const chance = keptChance(p);
    return (
      <Chip tone={late ? 'bad' : 'plain'}>
        {words.when(p.ready)}
        {chance !== null && ` · ${words.chance(chance)}`}
      </Chip>
    );
  };
  return (
    <div className="grid gap-2 p-3 sm:px-4 lg:grid-cols-6">
      <Panel title={t('plan.orders')} className="lg:col-span-6">
        <BookTable
          caption={t('plan.orders')}
          rows={rows}
          keyOf={(o) => o.id}
          empty={t('plan.orders.none')}
          columns={[
            {
              id: 'who',
              title: t('plan.order'),
              value: (o) => orderName(room, o.id, t),
              cell: ({ order, ...o }) =>
                order === null ? (
                  <Link to={`/plan/classes/${o.id}`} className="font-semibold underline underline-offset-4">
                    {orderName(room, o.id, t)}
                  </Link>
                ) : mayMake ? (
                  <button
                    type="button"
                    onClick={() => setChanging(order)}
                    className="min-h-11 text-left font-semibold underline underline-offset-4"
                  >
                    {orderName(room, o.id, t)}
                  </button>
                ) : (
                  orderName(room, o.id, t)
                ),
            },
            {
              id: 'what',
              title: t('plan.bars'),
              value: (o) => o.lines.reduce((s, l) => s + l.bars, 0),
              cell: (o) =>
                [
                  ...o.lines.map((l) =>
                    [words.number(l.bars), recipeName(l.recipeId), lotCode(l.lotId)]
                      .filter(Boolean)
                      .join(' '),
                  ),
                  ...(o.order?.spare ? [t('plan.spare.with')] : []),
                ].join('; '),
            },
            { id: 'due', title: t('plan.wanted'), value: (o) => o.due, cell: (o) => words.day(o.due) },
            { id: 'state', title: t('plan.ready'), cell: stateOf },
          ]}
        />
      </Panel>
      <Panel
        title={t('plan.aims')}
        className="lg:col-span-3"
        aside={
          mayMake && <Button onClick={() => (setAimId(null), setAsking('aim'))}>{t('plan.aim.new')}</Button>
        }
      >
        {room.aims.length === 0 ? (
          <p className="text-ink-3">{t('plan.aims.none')}</p>
        ) : (
          <ul>
            {room.aims.map((a) => {
              const there = room.stock
                .filter(
                  (s) =>
                    s.recipeId === a.recipeId &&
                    (a.lotId === null || s.lotId === a.lotId) &&
                    keepsUntil(s.bestBefore, dayOf(Date.parse(room.now), room.timeZone)),
                )
                .reduce((sum, s) => sum + s.bars, 0);
              return (
                <li
                  key={a.id}
                  className="flex items-center justify-between gap-3 border-b border-line py-1.5"
                >
                  <span className="min-w-0">
                    <b>{[recipeName(a.recipeId), lotCode(a.lotId)].filter(Boolean).join(' ')}</b>
                    <span className="block text-[13px] text-ink-3">
                      {t('plan.aim.of', { there, floor: a.floor, aim: a.aim })}
                    </span>
                  </span>
                  {mayMake && (
                    <Button look="quiet" onClick={() => (setAimId(a.id), setAsking('aim'))}>
                      {t('change')}
                    </Button>
                  )}
                </li>
              );
            })}
          </ul>
        )}
      </Panel>
      <Panel
        title={t('plan.absences')}
        className="lg:col-span-3"
        aside={
          mayMake && (
            <span className="flex gap-2">
              {person.role === 'owner' && (
                <Button onClick={() => setAsking('hours')}>{t('plan.hours.set')}</Button>
              )}
              <Button onClick={() => setAsking('absence')}>{t('plan.absence.new')}</Button>
            </span>
          )
        }
      >
        {room.absences.length === 0 ? (
          <p className="text-ink-3">{t('plan.absences.none')}</p>
        ) : (
          <ul>
            {room.absences.map((a) => (
              <li key={a.id} className="flex items-center justify-between gap-3 border-b border-line py-1.5">
                <span className="min-w-0">
                  <b>{a.who === null ? t('plan.everyone') : whoName(room, a.who)}</b> {a.reason}
                  <span className="block text-[13px] text-ink-3">
                    {t('plan.from-to', { from: words.when(a.from), to: words.when(a.to) })}
                  </span>
                </span>
                {mayMake && (
                  <Button
                    look="quiet"
                    onClick={() =>
                      void send({
                        path: `/api/absences/${a.id}`,
                        body: { who: a.who, from: a.from, to: a.to, reason: a.reason, isOff: true },
                        ifMatch: a.version,
                        label: t('done.plan.absence-off'),
                        undo: true,
                      }).catch(() => undefined)
                    }
                  >
                    {t('plan.absence.off')}
                  </Button>
                )}
              </li>
            ))}
          </ul>
        )}
      </Panel>
      {changing && <OrderDialog room={room} here={null} order={changing} onClose={() => setChanging(null)} />}
      {asking === 'aim' && (
        <AimDialog
          room={room}
          aim={room.aims.find((a) => a.id === aimId) ?? null}
          onClose={() => setAsking(null)}
        />
      )}
      {asking === 'absence' && <AbsenceDialog room={room} onClose={() => setAsking(null)} />}
      {asking === 'hours' && <HoursDialog room={room} onClose={() => setAsking(null)} />}
    </div>
  );
}
