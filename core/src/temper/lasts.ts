import { requireAbove0, requireBetween, requireFinite } from '../numerics/index.ts';
import { meltingShift } from './crystal.ts';
import { STIRRED, VERDICT_LIMITS, type ChocolateType } from './defaults.ts';
import { crystalEnsemble } from './ensemble.ts';
import type { Ranged } from './follow.ts';

/** A bowl in its window, held there while moulds are filled. */
export interface HeldBowl {
  /** Shares of the fat now, 0–1. */
  stable: number;
  unstable: number;
  /** Held at, °C. */
  celsius: number;
  type: ChocolateType;
  /** Where its crystals begin to form, °C: from its path. */
  coolC: number;
  /** Fat of the chocolate, share 0–1. */
  fat?: number;
  /** Stable share up to which it fills moulds; that of a bowl without pieces of seed where left out. */
  full?: number;
  horizonMinutes?: number;
}

/**
 * Minutes until a bowl held in its window grows too thick to fill moulds, gently stirred: the stable share passes what still pours. A range
 * that holds four fifths of what may be; null where it lasts beyond the horizon, 0 where it is too thick already.
 *
 * @throws RangeError for shares outside 0–1, and temperatures or a horizon that are no numbers
 */
export function bowlLasts(bowl: HeldBowl): Ranged | null {
  const {
    stable,
    unstable,
    celsius,
    type,
    coolC,
    fat = 0.36,
    full = VERDICT_LIMITS.full,
    horizonMinutes = 90,
  } = bowl;
  requireBetween(stable, 0, 1, 'the stable share');
  requireBetween(unstable, 0, 1, 'the unstable share');
  requireBetween(full, 0, 1, 'the share that is too much');
  requireFinite(celsius, 'the temperature of the bowl');
  requireAbove0(horizonMinutes, 'the horizon');
  if (stable >= full) return { low: 0, middle: 0, high: 0 };
  const path = [0, horizonMinutes].map((minutes) => ({ minutes, celsius, stirring: STIRRED.gentle }));
  const all = crystalEnsemble(
    { path, shift: meltingShift(type, coolC), fat, start: { unstable, stable }, sampleEvery: 30 },
    { members: 32 },
  );
  const first = (of: Float64Array) => {
    const k = of.findIndex((share) => share >= full);
    return k < 0 ? Infinity : all.minutes[k]!;
  };
  const middle = first(all.stable.middle);
  if (!Number.isFinite(middle)) return null;
  return { low: first(all.stable.high), middle, high: Math.min(horizonMinutes, first(all.stable.low)) };
}
