import { useDraggable } from '@dnd-kit/core';
import type { KeyboardEvent } from 'react';
import type { PlanRoomView } from '@wunsch/contract';
import { UNATTENDED, type PlannedStep } from '@wunsch/core/plan';
import { STAGE } from '../shell/glyphs.tsx';
import { useWords } from '../words/words.tsx';
import type { Block } from './blocks.ts';
import { lie, LYING, STANDING } from './lie.ts';
import type { Place } from './place.ts';
import type { Scale } from './scale.ts';

/** One block: solid where hands are at work, hatched where it goes on by itself. */
export function BlockButton({
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
  // Half a column of nine has room for a code in small letters only.
  const isTight = place.width <= 0.5 && columns > 4;
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
        border: `${isChosen || isBroken ? 2 : 1.5}px ${block.begun ? 'solid' : 'dashed'} ${isBroken ? 'var(--bad)' : isChosen ? 'var(--violet-text)' : `color-mix(in srgb, ${fill} 50%, var(--ink-3))`}`,
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
          className={`rounded-[2px] ${isAlone || block.begun ? 'bg-panel/85' : ''} ${isStanding ? 'absolute left-1/2 top-1/2 -translate-x-1/2 -translate-y-1/2 whitespace-nowrap px-1 py-0.5 [writing-mode:vertical-rl] [rotate:180deg]' : `absolute whitespace-nowrap ${isTight ? 'left-px text-[10.5px] tracking-[-0.03em]' : 'left-1 px-0.5'} ${place.height < 20 ? 'inset-y-0 flex items-center leading-none' : 'top-0.5'}`}`}
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
