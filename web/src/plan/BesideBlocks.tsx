import type { PlanRoomView } from '@wunsch/contract';
import { STAGE } from '../shell/glyphs.tsx';
import { useWords } from '../words/words.tsx';
import type { Block, ReadyBlock } from './blocks.ts';
import { lie, LYING, STANDING } from './lie.ts';
import { whoName } from './names.ts';
import type { Place } from './place.ts';

/** A block of the plan beside: outlined, so that what is in hand stands out. */
export function OtherBlock({
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
        borderColor: `color-mix(in srgb, ${fill} 50%, var(--ink-3))`,
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
export function ReadyMark({
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
