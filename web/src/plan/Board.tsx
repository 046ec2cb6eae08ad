import {
  DndContext,
  PointerSensor,
  TouchSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
  type DragMoveEvent,
} from '@dnd-kit/core';
import { useRef, type KeyboardEvent } from 'react';
import { STATIONS, type Station } from '@wunsch/core/ledger';
import type { PlannedOrder } from '@wunsch/core/plan';
import type { PlanRoomView } from '@wunsch/contract';
import { useNow } from '../shell/now.ts';
import { useWords } from '../words/words.tsx';
import { OtherBlock, ReadyMark } from './BesideBlocks.tsx';
import { BlockButton } from './BlockButton.tsx';
import type { Block, ReadyBlock } from './blocks.ts';
import { DayHead } from './DayHead.tsx';
import { lie } from './lie.ts';
import { OrderMarks } from './OrderMarks.tsx';
import { placeOf } from './place.ts';
import type { Scale } from './scale.ts';
import { Ties } from './Ties.tsx';

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
        {stations.includes('taste') && <OrderMarks room={room} orders={orders} scale={scale} width={width} />}
        {now >= scale.from && now <= scale.to && (
          <div
            aria-hidden="true"
            // Beside the days, whose names it would strike out.
            className="pointer-events-none absolute right-0 border-t-2 border-violet-text"
            style={{ top: nowY, left: 'var(--days)' }}
          >
            <span
              // Where no work of the plan ever stands, if that is on the board.
              className={`absolute -top-3 rounded-[2px] bg-violet px-2 py-0.5 text-[11.5px] font-semibold text-white ${stations[0] === 'beans' ? 'left-1' : 'right-1'}`}
            >
              {t('plan.now', { time: words.time(new Date(now).toISOString()) })}
            </span>
          </div>
        )}
      </div>
    </DndContext>
  );
}

/** All stations in the order of the line. */
export const ALL_STATIONS: readonly Station[] = STATIONS;
