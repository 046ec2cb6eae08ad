import {
  DndContext,
  PointerSensor,
  TouchSensor,
  useDraggable,
  useSensor,
  useSensors,
  type DragEndEvent,
  type DragMoveEvent,
} from '@dnd-kit/core';
import { useRef, type KeyboardEvent } from 'react';
import { STATIONS, type Station } from '@wunsch/core/ledger';
import { UNATTENDED, type PlannedOrder, type PlannedStep } from '@wunsch/core/plan';
import type { PlanRoomView } from '@wunsch/contract';
import { STAGE } from '../shell/glyphs.tsx';
import { useNow } from '../shell/now.ts';
import { useWords } from '../words/words.tsx';
import type { Block, ReadyBlock } from './blocks.ts';
import { DayHead } from './DayHead.tsx';
import { orderName, whoName } from './names.ts';
import { placeOf, type Place } from './place.ts';
import type { Scale } from './scale.ts';
import { Ties } from './Ties.tsx';

/** Chance from which an order counts as sure enough. */
export const SURE = 0.8;

/** Least heights at which a block bears its code, lying and standing, px. */
const LYING = 13;
const STANDING = 40;

/** What the board draws. */
export interface BoardProps {
  room: PlanRoomView;
  scale: Scale;
  blocks: readonly Block[];
  /** Work on machines between charges. */
  ready: readonly ReadyBlock[];
  /** Another plan drawn beside it, in the left half of every column; the plan has its columns whole where null. */
  before: readonly Block[] | null;
  orders: readonly PlannedOrder[];
  /** Hours by day and person. */
  hours: ReadonlyMap<string, ReadonlyMap<string, number>>;
  /** Stations that are shown; all of them where there is room. */
  stations: readonly Station[];
  chosen: string | null;
  onChoose: (batch: string | null, block: Block | null) => void;
  /** Keys of steps that lie elsewhere than in the plan in force, with where they were. */
  moved: ReadonlyMap<string, { from: number }>;
  /** A block dragged to a new start; null while nobody drags. */
  dragged: { key: string; broken: readonly string[] } | null;
  onDrag: ((block: Block, start: number) => void) | null;
  onDrop: ((block: Block, start: number) => void) | null;
}

/** What a drag does is told beside the board while it goes on. */
const nothing = () => undefined;
const SAID_BESIDE = { onDragStart: nothing, onDragOver: nothing, onDragEnd: nothing, onDragCancel: nothing };

/** The plan hung from the line: stations are its columns, time runs down, nights are folded. */
export function Board(props: BoardProps) {
  const { room, scale, blocks, before, orders, hours, stations, chosen, onChoose, moved, onDrag, onDrop } =
    props;
  const words = useWords();
  const { t } = words;
  const now = useNow(60_000);
  const board = useRef<HTMLDivElement>(null);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: 220, tolerance: 8 } }),
  );
  const placed = blocks.flatMap((block) => {
    const place = placeOf(block, scale, stations, before ? 'right' : null);
    return place ? [{ block, place }] : [];
  });
  const startAt = (event: DragMoveEvent | DragEndEvent) => {
    const item = placed.find((p) => p.block.key === event.active.id);
    return item ? { block: item.block, start: scale.at(item.place.top + event.delta.y) } : null;
  };
  const move = (event: KeyboardEvent, item: (typeof placed)[number]) => {
    const step = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    if (event.altKey && step !== undefined && onDrop && !item.block.begun) {
      event.preventDefault();
      onDrop(item.block, item.block.start + step * 15 * 60_000);
      return;
    }
    const column = (c: number) =>
      placed.filter((p) => p.place.column === c).sort((a, b) => a.place.top - b.place.top);
    const focus = (next: (typeof placed)[number] | undefined) => {
      if (!next) return;
      event.preventDefault();
      const all = [...(board.current?.querySelectorAll<HTMLElement>('[data-block]') ?? [])];
      all.find((b) => b.dataset.block === next.block.key)?.focus();
    };
    const own = column(item.place.column);
    if (step !== undefined) focus(own[own.indexOf(item) + step]);
    // Sideways along the batch.
    const way = placed
      .filter((p) => p.block.batch === item.block.batch)
      .sort((a, b) => a.block.start - b.block.start);
    if (event.key === 'ArrowRight') focus(way[way.indexOf(item) + 1]);
    if (event.key === 'ArrowLeft') focus(way[way.indexOf(item) - 1]);
    if (event.key === 'Escape') onChoose(null, null);
  };
  const nowY = scale.y(now);
  const width = `calc((100% - var(--days)) / ${stations.length})`;
  return (
    <DndContext
      sensors={sensors}
      accessibility={{
        screenReaderInstructions: { draggable: t('plan.board.keys') },
        announcements: SAID_BESIDE,
      }}
      onDragMove={(e) => {
        const at = startAt(e);
        if (at) onDrag?.(at.block, at.start);
      }}
      onDragEnd={(e) => {
        const at = startAt(e);
        if (at) onDrop?.(at.block, at.start);
      }}
    >
      {/* On paper there is no line above the board to hang from. */}
      <div aria-hidden="true" className="hidden border-b-2 border-ink pb-1 pl-[148px] print:flex">
        {stations.map((station) => (
          <span key={station} className="flex-1 pl-1 text-[13px] font-semibold">
            {t(`station.${station}`)}
          </span>
        ))}
      </div>
      <div
        ref={board}
        role="group"
        data-size-is-time=""
        aria-label={t('plan.board')}
        className="relative overflow-hidden bg-panel"
        style={{ height: scale.height + 8, ['--days' as string]: stations.length > 1 ? '148px' : '92px' }}
      >
        {scale.days.map((day, k) => (
          <DayHead
            key={day.day}
            day={day}
            scale={scale}
            isFirstOfMonth={k === 0 || day.day.endsWith('-01')}
            people={room.people}
            hours={hours.get(day.day)}
            isNarrow={stations.length === 1}
          />
        ))}
        {stations.map((station, k) => (
          <div
            key={station}
            aria-hidden="true"
            className="absolute inset-y-0 border-l border-line"
            style={{ left: `calc(var(--days) + ${width} * ${k})` }}
          />
        ))}
        <Ties
          placed={placed}
          columns={stations.length}
          chosen={chosen}
          broken={props.dragged?.broken ?? []}
          height={scale.height}
        />
        {before?.map((block) => (
          <OtherBlock
            key={`other ${block.key}`}
            block={block}
            place={placeOf(block, scale, stations, 'left')}
            columns={stations.length}
            isDim={chosen !== null && chosen !== block.batch}
          />
        ))}
        {placed.flatMap(({ block, place }) => {
          if (before) return [];
          // Where a block was in the plan in force.
          const was = block.steps.flatMap((s) => moved.get(s.key)?.from ?? []);
          const top = was.length > 0 ? scale.y(Math.min(...was)) : null;
          if (top === null || Math.abs(top - place.top) < 3) return [];
          return [
            <div
              key={`was ${block.key}`}
              aria-hidden="true"
              className="pointer-events-none absolute rounded-[2px] border border-dotted border-ink-3"
              style={lie({ ...place, top }, stations.length)}
            />,
          ];
        })}
        {props.ready.map((block) => (
          <ReadyMark
            key={block.key}
            block={block}
            place={placeOf(block, scale, stations, before ? 'right' : null)}
            columns={stations.length}
            isDim={chosen !== null && chosen !== block.batch}
            room={room}
          />
        ))}
        {placed.map((item) => (
          <BlockButton
            key={item.block.key}
            {...item}
            columns={stations.length}
            isChosen={chosen === item.block.batch}
            isDim={chosen !== null && chosen !== item.block.batch}
            isBroken={item.block.steps.some((s) => props.dragged?.broken.includes(s.key))}
            isMoved={item.block.steps.some((s) => moved.has(s.key))}
            canDrag={onDrag !== null && !item.block.begun && (scale.zoom === 'day' || scale.zoom === 'week')}
            room={room}
            zoom={scale.zoom}
            scale={scale}
            onChoose={() => onChoose(item.block.batch, item.block)}
            onKeyDown={(e) => move(e, item)}
          />
        ))}
        {stations.includes('taste') &&
          orderMarks(orders, scale).map(({ order, y }) => {
            const isLate = order.ready !== null && order.ready > order.due;
            return (
              <div
                key={order.orderId}
                className={`pointer-events-none absolute overflow-hidden border-b-2 bg-panel/90 px-1 text-[11.5px] leading-[14px] ${isLate ? 'border-bad' : 'border-ink'}`}
                style={{
                  top: y,
                  left: `calc(100% - ${width} + 3px)`,
                  width: `calc(${width} - 6px)`,
                }}
              >
                <span className="block truncate font-semibold">{orderName(room, order.orderId, t)}</span>
                <span className="flex gap-1">
                  <span className="min-w-0 truncate text-ink-2">{order.codes.join(', ')}</span>
                  {order.chance !== null && (
                    <span
                      className={`ml-auto shrink-0 ${isLate || order.chance < SURE ? 'font-bold text-bad' : 'text-ink-2'}`}
                    >
                      {words.percent(order.chance, 0)}
                    </span>
                  )}
                </span>
              </div>
            );
          })}
        {now >= scale.from && now <= scale.to && (
          <div
            aria-hidden="true"
            className="pointer-events-none absolute inset-x-0 border-t-2 border-violet-text"
            style={{ top: nowY }}
          >
            <span className="absolute -top-3 right-1 rounded-[2px] bg-violet px-2 py-0.5 text-[11.5px] font-semibold text-white">
              {t('plan.now', { time: words.time(new Date(now).toISOString()) })}
            </span>
          </div>
        )}
      </div>
    </DndContext>
  );
}

/** Where a block lies on the board, for what is drawn there. */
function lie({ column, left, width, top, height }: Place, columns: number) {
  const whole = `(100% - var(--days)) / ${columns}`;
  return {
    top,
    height,
    left: `calc(var(--days) + ${whole} * ${column + left} + 5px)`,
    width: `calc(${whole} * ${width} - ${width < 1 ? 7 : 10}px)`,
  };
}

/** A block of the plan beside: outlined, so that what is in hand stands out. */
function OtherBlock({
  block,
  place,
  columns,
  isDim,
}: {
  block: Block;
  place: Place | null;
  columns: number;
  isDim: boolean;
}) {
  if (!place) return null;
  const isStanding = place.width < 0.5;
  const { fill } = STAGE[block.station];
  return (
    <div
      aria-hidden="true"
      className={`pointer-events-none absolute overflow-hidden rounded-[2px] border border-dotted text-[11.5px] leading-tight text-ink-2 ${isDim ? 'opacity-45' : ''}`}
      style={{
        ...lie(place, columns),
        borderColor: `color-mix(in srgb, ${fill} 60%, var(--ink-3))`,
        background: `color-mix(in srgb, ${fill} 9%, var(--panel))`,
      }}
    >
      {place.height >= (isStanding ? STANDING : LYING) && (
        <span
          className={`whitespace-nowrap px-0.5 ${isStanding ? '[writing-mode:vertical-rl] [rotate:180deg]' : ''}`}
        >
          {block.code}
        </span>
      )}
    </div>
  );
}

/** A machine made ready by somebody: a frame that is clean within. */
function ReadyMark({
  block,
  place,
  columns,
  isDim,
  room,
}: {
  block: ReadyBlock;
  place: Place | null;
  columns: number;
  isDim: boolean;
  room: PlanRoomView;
}) {
  const words = useWords();
  if (!place) return null;
  const { setUp, hands, step } = block.work;
  const machine = whoName(room, step.machineId);
  const when = words.t('plan.set-up.by', {
    who: whoName(room, hands.personId),
    from: words.when(hands.start),
    to: words.time(hands.end),
  });
  return (
    <div
      role="img"
      aria-label={`${words.t(`plan.ready.${setUp.kind}`, { machine })}, ${block.code}, ${when}`}
      title={`${words.t(`plan.ready.${setUp.kind}`, { machine })}: ${when}`}
      className={`absolute rounded-[2px] border-2 bg-panel ${isDim ? 'opacity-45' : ''}`}
      style={{
        ...lie(place, columns),
        borderColor: `color-mix(in srgb, ${STAGE[block.station].fill} 60%, var(--ink-3))`,
      }}
    />
  );
}

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

/** One block: solid where hands are at work, hatched where it goes on by itself. */
function BlockButton({
  block,
  place,
  columns,
  isChosen,
  isDim,
  isBroken,
  isMoved,
  canDrag,
  room,
  zoom,
  scale,
  onChoose,
  onKeyDown,
}: {
  block: Block;
  place: Place;
  columns: number;
  isChosen: boolean;
  isDim: boolean;
  isBroken: boolean;
  isMoved: boolean;
  canDrag: boolean;
  room: PlanRoomView;
  zoom: Scale['zoom'];
  scale: Scale;
  onChoose: () => void;
  onKeyDown: (event: KeyboardEvent) => void;
}) {
  const words = useWords();
  const { attributes, listeners, setNodeRef, transform, isDragging } = useDraggable({
    id: block.key,
    disabled: !canDrag,
  });
  const { fill } = STAGE[block.station];
  const isAlone = block.steps.every((s) => UNATTENDED.has(s.stage)) || block.station === 'grind';
  const isStanding = place.width < 0.5 || (block.station === 'grind' && place.width === 0.5);
  const caps = block.station === 'grind' ? block.steps.filter((s) => !UNATTENDED.has(s.stage)) : [];
  // From afar a block is too small to be met by a finger: there the board is a picture.
  const isNear = zoom === 'day' || zoom === 'week';
  const Part = isNear ? 'button' : 'span';
  return (
    <Part
      ref={isNear ? setNodeRef : undefined}
      {...(isNear ? { type: 'button' as const, 'aria-pressed': isChosen } : { role: 'img' })}
      data-block={block.key}
      {...(isNear && { ...listeners, 'aria-describedby': attributes['aria-describedby'] })}
      aria-label={describe(block, room, words)}
      onClick={isNear ? onChoose : undefined}
      onKeyDown={isNear ? onKeyDown : undefined}
      className={`absolute overflow-hidden rounded-[2px] text-left text-[12px] font-semibold leading-tight text-ink ${isDim ? 'opacity-45' : ''} ${canDrag ? 'cursor-grab touch-manipulation' : ''} ${isDragging ? 'z-20 shadow-lg' : ''}`}
      style={{
        ...lie(place, columns),
        transform: transform ? `translateY(${transform.y}px)` : undefined,
        background: isAlone
          ? `repeating-linear-gradient(-45deg, color-mix(in srgb, ${fill} 30%, var(--panel)) 0 3px, color-mix(in srgb, ${fill} 10%, var(--panel)) 3px 8px)`
          : block.begun
            ? `color-mix(in srgb, ${fill} 72%, var(--panel))`
            : `color-mix(in srgb, ${fill} 32%, var(--panel))`,
        border: `${isChosen || isBroken ? 2 : 1.5}px ${block.begun ? 'solid' : 'dashed'} ${isBroken ? 'var(--bad)' : isChosen ? 'var(--violet-text)' : `color-mix(in srgb, ${fill} 80%, var(--ink-3))`}`,
      }}
    >
      {caps.map((s) => (
        <span
          key={s.key}
          aria-hidden="true"
          className="absolute inset-x-0"
          style={{
            top: scale.y(Date.parse(s.start)) - place.top,
            height: Math.max(4, scale.y(Date.parse(s.end)) - scale.y(Date.parse(s.start))),
            background: fill,
          }}
        />
      ))}
      {place.height >= (isStanding ? STANDING : LYING) && (
        <span
          className={`rounded-[2px] ${isAlone || block.begun ? 'bg-panel/85' : ''} ${isStanding ? 'absolute left-1/2 top-1/2 -translate-x-1/2 -translate-y-1/2 whitespace-nowrap px-1 py-0.5 [writing-mode:vertical-rl] [rotate:180deg]' : 'absolute left-1 top-0.5 whitespace-nowrap px-0.5'}`}
        >
          {block.code}
          {isMoved && (
            <span aria-hidden="true" className="ml-1">
              ↕
            </span>
          )}
        </span>
      )}
      {zoom === 'day' && place.height > 34 && !isStanding && (
        <span className="absolute bottom-0.5 left-1 rounded-[2px] bg-panel/85 px-0.5 text-[11.5px] font-normal">
          {block.steps
            .flatMap((s) => room.people.find((p) => p.id === s.personId)?.initials ?? [])
            .filter((x, i, all) => all.indexOf(x) === i)
            .join(' ')}
        </span>
      )}
    </Part>
  );
}

/** A block in words, for whoever hears the page. */
function describe(block: Block, room: PlanRoomView, words: ReturnType<typeof useWords>): string {
  const { t } = words;
  const who = [...new Set(block.steps.flatMap((s: PlannedStep) => s.personId ?? []))]
    .flatMap((id) => room.people.find((p) => p.id === id)?.name ?? [])
    .join(', ');
  const machine = [...new Set(block.steps.flatMap((s) => s.machineId ?? []))]
    .flatMap((id) => room.machines.find((m) => m.id === id)?.name ?? [])
    .join(', ');
  return [
    block.code,
    t(`station.${block.station}`),
    t('plan.from-to', {
      from: words.when(new Date(block.start).toISOString()),
      to: words.when(new Date(block.end).toISOString()),
    }),
    who,
    machine,
    block.begun ? t('plan.begun') : '',
  ]
    .filter(Boolean)
    .join(', ');
}

/** All stations in the order of the line. */
export const ALL_STATIONS: readonly Station[] = STATIONS;
