import type { Station } from '@wunsch/core/ledger';
import type { Block } from './blocks.ts';
import type { Scale } from './scale.ts';

/** Least height a block is drawn with, px. */
const LEAST = 9;

/** Where a block lies: left and width as shares of the board, top and height in px. */
export interface Place {
  column: number;
  left: number;
  width: number;
  top: number;
  height: number;
}

/** Where a block lies among the stations that are shown. */
export function placeOf(
  block: Block,
  scale: Scale,
  stations: readonly Station[],
  half: 'left' | 'right' | null = null,
): Place | null {
  const column = stations.indexOf(block.station);
  if (column < 0 || block.end < scale.from || block.start > scale.to) return null;
  const top = scale.y(block.start);
  return {
    column,
    left:
      half === null ? block.lane / block.lanes : (half === 'right' ? 0.5 : 0) + block.lane / block.lanes / 2,
    width: (half === null ? 1 : 0.5) / block.lanes,
    top,
    height: Math.max(LEAST, scale.y(block.end) - top),
  };
}
