import { useMemo, useRef, useState } from 'react';
import { createPortal } from 'react-dom';
import { Link, useSearchParams } from 'react-router';
import type { Station } from '@wunsch/core/ledger';
import {
  isLate,
  notReady,
  type Broken,
  type PlannedOrder,
  type PlanPin,
  type Repair,
  type WorkshopPlan,
} from '@wunsch/core/plan';
import type { PlanRoomView } from '@wunsch/contract';
import { useMayMake } from '../shell/session.tsx';
import { Button } from '../ui/Button.tsx';
import { SelectField } from '../ui/Field.tsx';
import { EmptyState } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';
import { planAnswers } from '../workers/plan.ts';
import { Impossible } from './Impossible.tsx';
import { ALL_STATIONS, Board } from './Board.tsx';
import { blocksOf, hoursByPerson, readyBlocksOf, type Block } from './blocks.ts';
import { orderName, whoName } from './names.ts';
import { OrderDialog } from './OrderDialog.tsx';
import { SURE } from './OrderMarks.tsx';
import { PlanRecords } from './PlanRecords.tsx';
import { Scarce } from './Scarce.tsx';
import { scaleOf, ZOOMS, type Zoom } from './scale.ts';
import { Side } from './Side.tsx';
import { useBeside, useIsNarrow } from '../shell/useBeside.ts';
import { useAsked } from '../shell/useAsked.ts';
import { usePlan, usePlanRoom, type PlanHere } from './usePlan.ts';
import { WhatIfDialog } from './WhatIfDialog.tsx';

/** The plan: from what is promised to who does what when. */
export default function PlanPage() {
  const { t } = useWords();
  const { data: room } = usePlanRoom();
  const here = usePlan(room);
  if (!room) return <p className="p-6 text-ink-3">{t('loading')}</p>;
  return <PlanOf room={room} here={here} />;
}

function PlanOf({ room, here }: { room: PlanRoomView; here: PlanHere }) {
  const words = useWords();
  const { t } = words;
  const mayMake = useMayMake();
  const [search, setSearch] = useSearchParams();
  const zoom = (ZOOMS as readonly string[]).includes(search.get('zoom') ?? '')
    ? (search.get('zoom') as Zoom)
    : 'week';
  const isNarrow = useIsNarrow();
  const beside = useBeside();
  const [asked, setStation] = useState<Station | null>(null);
  const [chosen, setChosen] = useState<{ batch: string; block: Block | null } | null>(null);
  const [asking, setAsking] = useState<'order' | 'what-if' | null>(null);
  useAsked('order', () => setAsking('order'));
  useAsked('what-if', () => setAsking('what-if'));
  const [drag, setDrag] = useState<{ key: string; repair: Repair; broken: Broken[] } | null>(null);
  // Two plans beside each other: the one in force and the one shown, or the one shown and how it would be; over once another is in force.
  const [pair, setPair] = useState<{ then: WorkshopPlan | null; keptId: string | null } | null>(null);
  const keptId = here.kept?.id ?? null;
  const compared = pair?.keptId === keptId ? pair : null;
  const ifSo = compared?.then ?? null;
  const plan = ifSo ?? drag?.repair.plan ?? here.plan;
  const other: Pick<WorkshopPlan, 'steps' | 'orders'> | null = ifSo ? here.plan : compared ? here.kept : null;
  const scale = useMemo(() => scaleOf(room, zoom), [room, zoom]);
  const grinders = useMemo(
    () =>
      room.machines
        .filter(
          (m) =>
            m.station === 'grind' && [plan, other].some((p) => p?.steps.some((s) => s.machineId === m.id)),
        )
        .map((m) => m.id),
    [room, plan, other],
  );
  const blocks = useMemo(
    () => blocksOf(plan?.steps ?? [], room.timeZone, grinders),
    [plan, room.timeZone, grinders],
  );
  // Where there is room for one station only: the one whose work comes next.
  const next = blocks.filter((b) => b.end > Date.parse(room.now)).sort((a, b) => a.start - b.start)[0];
  const station = asked ?? next?.station ?? 'roast';
  const before = useMemo(
    () => (other ? blocksOf(other.steps, room.timeZone, grinders) : null),
    [other, room.timeZone, grinders],
  );
  const ready = useMemo(() => readyBlocksOf(plan?.steps ?? [], blocks), [plan, blocks]);
  const hours = useMemo(() => hoursByPerson(plan?.steps ?? [], room.timeZone), [plan, room.timeZone]);
  const moved = useMemo(() => {
    const moves = drag?.repair.moves ?? here.repair?.moves ?? [];
    return new Map(moves.flatMap((m) => (m.ready ? [] : [[m.key, { from: Date.parse(m.from) }]])));
  }, [drag, here.repair]);
  const isBusy = useRef(false);
  /** Steps the worker holds ready to be dragged. */
  const taken = useRef<readonly unknown[] | null>(null);
  const firstOf = (block: Block) => block.steps.find((s) => !s.begun) ?? block.steps[0]!;
  const pinAt = (block: Block, start: number): PlanPin => ({
    step: firstOf(block).key,
    at: new Date(start).toISOString(),
    how: 'not before',
  });
  const onDrag = (block: Block, start: number) => {
    // One question at a time: what comes meanwhile is answered by the next.
    if (isBusy.current || !here.plan) return;
    isBusy.current = true;
    const base = here.plan.steps;
    const isTaken = taken.current === base;
    taken.current = base;
    planAnswers
      .ask<{ repair: Repair; broken: Broken[] }>(async (thread) => {
        if (!isTaken) await thread.take(room, base, here.pins);
        return thread.drag(pinAt(block, start));
      })
      .then(
        (answer) => isBusy.current && setDrag({ key: block.key, ...answer }),
        () => (taken.current = null),
      )
      .finally(() => {
        isBusy.current = false;
      });
  };
  const onDrop = (block: Block, start: number) => {
    isBusy.current = false;
    setDrag(null);
    if (Math.abs(start - block.start) < 5 * 60_000) return;
    void here.pinStep(firstOf(block).key, pinAt(block, start));
  };
  const broken = drag ? [...new Set(drag.broken.flatMap((b) => b.ids))] : [];
  // A bar that is kept in stock, and is there, is no empty workshop.
  const isEmpty =
    here.plan !== null &&
    here.plan.steps.length === 0 &&
    room.allOrders.length + room.aims.length + room.classes.length === 0;
  const side = !isEmpty && (
    <Side
      room={room}
      here={here}
      chosen={chosen}
      broken={drag?.broken ?? []}
      isBeside={compared !== null && ifSo === null}
      onBeside={() => setPair(compared && !ifSo ? null : { then: null, keptId })}
      onLeave={() => setChosen(null)}
    />
  );
  return (
    <div className="on-a3">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-2 px-3 py-3 sm:px-4">
        <h1 className="text-[26px] leading-none">{t('plan')}</h1>
        <p className="min-w-0 flex-1 text-[13.5px] text-ink-2" aria-live="polite">
          {(plan || !here.problem) && <Standing room={room} plan={plan} proposal={here.proposal} />}
        </p>
        <Link
          to="/plan/classes"
          className="no-print inline-flex min-h-11 items-center px-2 text-[13.5px] font-semibold underline underline-offset-4"
        >
          {t('classes')}
        </Link>
        {mayMake && (
          <div className="no-print flex flex-wrap gap-2">
            <Button
              onClick={() => setAsking('what-if')}
              disabled={!here.plan || here.plan.steps.length === 0}
            >
              {t('plan.what-if')}
            </Button>
            <Button onClick={() => setAsking('order')}>{t('plan.new-order')}</Button>
            {here.proposal?.isSearching ? (
              <Button look="main" onClick={here.stop}>
                {t('plan.stop')}
              </Button>
            ) : (
              <Button look="main" onClick={() => void here.search()} disabled={!here.plan}>
                {t('plan.again')}
              </Button>
            )}
          </div>
        )}
      </header>
      {here.problem && <Impossible room={room} problem={here.problem} className="mx-3 mb-3 sm:mx-4" />}
      <div className="no-print flex flex-wrap items-end gap-2 px-3 pb-2 sm:px-4">
        <div role="group" aria-label={t('plan.zoom')} className="flex">
          {ZOOMS.map((z) => (
            <button
              key={z}
              type="button"
              aria-pressed={zoom === z}
              onClick={() => setSearch({ zoom: z }, { replace: true })}
              className={`-ml-px min-h-11 border border-edge px-3 text-[13px] font-semibold first:ml-0 first:rounded-l last:rounded-r ${zoom === z ? 'bg-violet text-white' : 'bg-panel hover:bg-panel-2'}`}
            >
              {t(`plan.zoom.${z}`)}
            </button>
          ))}
        </div>
        {isNarrow && (
          <SelectField
            label={t('plan.station')}
            value={station}
            onChange={(e) => setStation(e.target.value as Station)}
          >
            {ALL_STATIONS.filter((s) => s !== 'beans').map((s) => (
              <option key={s} value={s}>
                {t(`station.${s}`)}
              </option>
            ))}
          </SelectField>
        )}
        <p className="hidden min-w-0 flex-1 text-right text-[12.5px] text-ink-3 sm:block">
          {!isEmpty && t(other ? 'plan.legend.beside' : 'plan.legend')}
          {ready.length > 0 && `; ${t('plan.legend.ready')}`}
        </p>
        <Link
          to="/plan/list"
          className="inline-flex min-h-11 items-center rounded border border-edge bg-panel px-4 text-[13.5px] font-semibold hover:bg-panel-2"
        >
          {t('plan.list')}
        </Link>
        <Button onClick={() => window.print()}>{t('print')}</Button>
      </div>
      {plan && <Scarce room={room} orders={plan.orders} />}
      {other && (
        <div
          role="status"
          className="no-print mx-3 mb-2 flex flex-wrap items-center gap-3 text-[13.5px] sm:mx-4"
        >
          <p className="min-w-0 flex-1 border-l-4 border-violet bg-panel px-3 py-2">
            {t(ifSo ? 'plan.beside.if' : 'plan.beside.kept')}
          </p>
          <Button onClick={() => setPair(null)}>{t('plan.beside.end')}</Button>
        </div>
      )}
      {isEmpty ? (
        <EmptyState
          title={t('plan.empty')}
          action={
            mayMake && (
              <Button look="main" onClick={() => setAsking('order')}>
                {t('plan.new-order')}
              </Button>
            )
          }
        >
          {t('plan.empty.text')}
        </EmptyState>
      ) : (
        <Board
          room={room}
          scale={scale}
          blocks={blocks}
          ready={ready}
          before={before}
          orders={plan?.orders ?? []}
          hours={hours}
          stations={isNarrow ? [station] : ALL_STATIONS}
          chosen={chosen?.batch ?? null}
          onChoose={(batch, block) => setChosen(batch === null ? null : { batch, block })}
          moved={moved}
          dragged={drag ? { key: drag.key, broken } : null}
          onDrag={mayMake && !ifSo ? onDrag : null}
          onDrop={mayMake && !ifSo ? onDrop : null}
        />
      )}
      {side && (beside ? createPortal(side, beside) : <div className="px-3 pt-3 sm:px-4">{side}</div>)}
      <PlanRecords room={room} plan={here.plan} isReckoned={here.plan !== null || here.problem !== null} />
      {asking === 'order' && <OrderDialog room={room} here={here} onClose={() => setAsking(null)} />}
      {asking === 'what-if' && here.plan && (
        <WhatIfDialog
          room={room}
          plan={here.plan}
          onShow={(then) => {
            setPair({ then, keptId });
            setAsking(null);
          }}
          onClose={() => setAsking(null)}
        />
      )}
    </div>
  );
}

/** How good the plan is, in a sentence. */
function Standing({
  room,
  plan,
  proposal,
}: {
  room: PlanRoomView;
  plan: WorkshopPlan | null;
  proposal: PlanHere['proposal'];
}) {
  const words = useWords();
  const { t } = words;
  if (!plan) return <>{t('plan.making')}</>;
  const open = room.allOrders.filter((o) => o.state === 'open').length;
  const batches = new Set(plan.steps.map((s) => s.batchId ?? s.batch)).size;
  const late = plan.orders.filter(isLate).length;
  const parts = [t('plan.standing', { orders: open, batches })];
  if (plan.steps.length > 0 && plan.orders.length > 0)
    parts.push(late === 0 ? t('plan.none-late') : t('plan.late', { n: late }));
  const named = (orders: readonly PlannedOrder[]) =>
    orders
      .slice(0, 3)
      .map((o) => `${orderName(room, o.orderId, t)} ${words.chance(o.chance!)}`)
      .join(', ');
  const unsure = plan.orders.filter((o) => o.chance !== null && o.chance < SURE && !isLate(o));
  if (unsure.length > 0) parts.push(t('plan.unsure', { n: unsure.length, who: named(unsure) }));
  const unready = notReady(plan.steps);
  if (unready.length > 0)
    parts.push(
      t('plan.not-ready', {
        machines: [...new Set(unready.map((s) => whoName(room, s.machineId)))].join(', '),
        codes: unready.map((s) => s.code).join(', '),
      }),
    );
  // How far from the best is told where it was looked for.
  if (plan.tried > 1 && plan.steps.length > 0)
    parts.push(plan.isProved ? t('plan.best') : t('plan.gap', { gap: words.percent(plan.gap, 0) }));
  if (proposal?.isSearching) parts.push(t('plan.searching', { n: words.number(plan.tried) }));
  return <>{parts.join(' ')}</>;
}
