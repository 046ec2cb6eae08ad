import type { Place } from './place.ts';

/** Least height at which a block bears its code, px: lying. */
export const LYING = 14;
/** Standing. */
export const STANDING = 40;

/** Where a block lies on the board, for what is drawn there. */
export function lie({ column, left, width, top, height }: Place, columns: number) {
  const whole = `(100% - var(--days)) / ${columns}`;
  return {
    top,
    height,
    left: `calc(var(--days) + ${whole} * ${column + left} + 5px)`,
    width: `calc(${whole} * ${width} - ${width < 1 ? 7 : 10}px)`,
  };
}
