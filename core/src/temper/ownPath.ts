import { requireBetween, requireNumbers } from '../numerics/index.ts';
import { TEMPER_PATHS, type ChocolateType, type TemperPath } from './defaults.ts';
import { inTheBowl } from './probeOut.ts';
import type { BowlReading } from './window.ts';

/** What a poured bowl really reached, and how its bars came out. */
export interface ReachedPath {
  /** Coldest it was after it was melted, °C; null where its method has no cool step, as with seed. */
  coolC: number | null;
  /** What it was held at while it was poured, °C. */
  workC: number;
  /** Null where nobody has looked at its bars or tested it. */
  good: boolean | null;
}

/** A path of a lot's own. */
export interface OwnPath {
  path: TemperPath;
  /** Bowls with good bars that it rests on. */
  bowls: number;
  /** By how much the last good bowls were worked warmer (above 0) or cooler than those before, K; null where that is no more than usual. */
  driftC: number | null;
}

/** The end of a bowl's log that says what it was worked at, s. */
const WORKED_SECONDS = 180;

/** Bowls before a lot has a path of its own, and weight of the trade's usual path in bowls. */
const ENOUGH = 3;
const USUAL_WEIGHS = 2;

/** No bowl moves a path further than this from the usual, K. */
const FURTHEST = 2;

/** The last so many bowls are held against those before; a difference worth saying, K. */
const LATEST = 3;
const DRIFTS = 0.4;

/** By how much the window lies lower for each percent of milk fat in the fat beyond the usual for its kind, K; at most so far. */
const PER_MILK_FAT = 0.12;
const MOST_BY_MILK_FAT = 2;

/** Milk fat in the fat that the usual paths hold already, %. */
const USUAL_MILK_FAT: Readonly<Record<ChocolateType, number>> = {
  dark: 0,
  milk: 15,
  white: 18,
  plant: 0,
  fruit: 12,
};

const median = (values: readonly number[]) => {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = (sorted.length - 1) / 2;
  return (sorted[Math.floor(middle)]! + sorted[Math.ceil(middle)]!) / 2;
};

/** A path with its cool step, work and window moved, K. */
function moved(path: TemperPath, coolK: number, workK: number): TemperPath {
  return {
    ...path,
    coolC: path.coolC + coolK,
    workC: path.workC + workK,
    windowLowC: path.windowLowC + workK,
    windowHighC: path.windowHighC + workK,
  };
}

/**
 * What a bowl reached by its log: its coldest after its hottest, and the mean of its last three minutes. Null where it was never cooled, or
 * its log is shorter than ten readings.
 *
 * @throws RangeError for readings that are no numbers
 */
export function pathReached(readings: readonly BowlReading[]): { coolC: number; workC: number } | null {
  requireNumbers(readings, 'a reading');
  const clean = inTheBowl(readings);
  if (clean.length < 10) return null;
  const hottest = clean.reduce((h, r, i) => (r.celsius > clean[h]!.celsius ? i : h), 0);
  const after = clean.slice(hottest);
  if (after.length < 5) return null;
  const end = after.at(-1)!.seconds;
  const worked = after.filter((r) => r.seconds >= end - WORKED_SECONDS);
  const coolC = Math.min(...after.map((r) => r.celsius));
  const workC = worked.reduce((s, r) => s + r.celsius, 0) / worked.length;
  return clean[hottest]!.celsius - coolC < 5 ? null : { coolC, workC };
}

/**
 * The path a lot keeps of its own after good results: the median of what its good bowls reached, drawn towards the usual while they are
 * few, never further than two kelvin from it.
 *
 * @param reached its bowls in order of time
 * @returns null with fewer than three bowls whose bars were good
 * @throws RangeError for temperatures that are no numbers
 */
export function ownPath(usual: TemperPath, reached: readonly ReachedPath[]): OwnPath | null {
  const good = reached.filter((r) => r.good === true);
  requireNumbers(
    good.flatMap((r) => (r.coolC === null ? [r.workC] : [r.coolC, r.workC])),
    'a temperature',
  );
  if (good.length < ENOUGH) return null;
  const shift = (values: readonly number[], from: number) => {
    if (values.length < ENOUGH) return 0;
    const weight = values.length / (values.length + USUAL_WEIGHS);
    return Math.max(-FURTHEST, Math.min(FURTHEST, weight * (median(values) - from)));
  };
  const last = good.slice(-LATEST);
  const before = good.slice(0, -LATEST);
  const drift =
    before.length >= ENOUGH ? median(last.map((r) => r.workC)) - median(before.map((r) => r.workC)) : 0;
  return {
    path: moved(
      usual,
      shift(
        good.flatMap((r) => r.coolC ?? []),
        usual.coolC,
      ),
      shift(
        good.map((r) => r.workC),
        usual.workC,
      ),
    ),
    bowls: good.length,
    driftC: Math.abs(drift) >= DRIFTS ? drift : null,
  };
}

/**
 * The usual path of a kind moved down by the milk fat of its recipe: milk fat softens cocoa butter, so that everything happens at lower
 * temperatures.
 *
 * @param milkFatOfFat milk fat as a share of all fat, 0–1
 * @throws RangeError for a share outside 0–1
 * @example pathByMilkFat('dark', 0.1).workC // 30.3
 */
export function pathByMilkFat(type: ChocolateType, milkFatOfFat: number): TemperPath {
  requireBetween(milkFatOfFat, 0, 1, 'the share of milk fat');
  const beyond = 100 * milkFatOfFat - USUAL_MILK_FAT[type];
  const shift = -Math.max(-MOST_BY_MILK_FAT, Math.min(MOST_BY_MILK_FAT, PER_MILK_FAT * beyond));
  return moved(TEMPER_PATHS[type], shift, shift);
}
