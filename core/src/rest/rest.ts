import { requireFinite, requireNumbers } from '../numerics/index.ts';
/** Where and how long untempered blocks rest. */
export const REST_DEFAULTS = {
  /** Weeks, from and to. */
  weeks: [2, 6],
  /** °C, from and to; dark, dry, away from smells. */
  celsius: [16, 18],
  /** Days between tastings. */
  retasteDays: 14,
} as const;

/** A block parcel in the store. */
export interface RestingBlock {
  /** Epoch ms at which it was cast. */
  castAt: number;
  /** Epoch ms of its tastings. */
  tastedAt: readonly number[];
  /** Workshop's wish, where it differs from the usual. */
  weeks?: readonly [number, number];
}

/** How a block stands. */
export interface RestState {
  days: number;
  state: 'young' | 'ready' | 'long';
  /** Epoch ms from which it is ready, and after which it has rested longer than meant. */
  readyAt: number;
  longAt: number;
  /** Epoch ms of the next tasting. */
  tasteAt: number;
}

const DAY = 86_400_000;

/** How long a block has rested, whether it is ready, and when to taste it again. */
export function restState(
  { castAt, tastedAt, weeks = REST_DEFAULTS.weeks }: RestingBlock,
  now: number,
): RestState {
  requireFinite(castAt, 'the time of casting');
  requireFinite(now, 'the time');
  requireNumbers(tastedAt, 'a tasting');
  requireNumbers(weeks, 'the weeks');
  const [from, to] = weeks;
  const readyAt = castAt + from * 7 * DAY;
  const longAt = castAt + to * 7 * DAY;
  const last = Math.max(castAt, ...tastedAt);
  return {
    days: (now - castAt) / DAY,
    state: now < readyAt ? 'young' : now <= longAt ? 'ready' : 'long',
    readyAt,
    longAt,
    tasteAt: last + REST_DEFAULTS.retasteDays * DAY,
  };
}
