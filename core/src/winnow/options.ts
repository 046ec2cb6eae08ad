import { requireAbove0, requireNotBelow0, requireNumbers, requireWhole } from '../numerics/index.ts';
import { HUSK_LIMIT } from './defaults.ts';
import {
  crossing,
  losses,
  speedForLimit,
  streams,
  type FallingSpeeds,
  type Separation,
} from './separation.ts';
import { cutAt, type FittedWinnower } from './fit.ts';

/** A point of the chart of losses against the air setting. */
export interface SettingPoint extends Separation {
  setting: number;
}

/** Losses over a range of settings, for drawing. Settings above 0, in rising order. */
export function lossCurve(winnower: FittedWinnower, settings: readonly number[], passes = 1): SettingPoint[] {
  settings.forEach((s) => requireAbove0(s, 'an air setting'));
  requireWhole(passes, 'the number of passes', 1);
  return settings.map((setting) => ({
    setting,
    ...streams(losses(winnower.speeds, cutAt(winnower, setting), passes), winnower.huskShare),
  }));
}

/** A way of winnowing that meets the husk limit as cheaply as it can. */
export interface WinnowOption {
  way: 'one pass' | 'second pass' | 'two sizes' | 'hand picking';
  /** Settings to use: one, or one for the small and one for the large pieces; empty where none is set. */
  settings: number[];
  nibLost: number;
  huskInNibs: number;
}

/** The cheapest setting that meets the limit: more air only loses more nib. Null where none does. */
export function cheapestSetting(
  winnower: FittedWinnower,
  limit: number = HUSK_LIMIT,
  passes = 1,
): SettingPoint | null {
  requireLimit(limit);
  requireWhole(passes, 'the number of passes', 1);
  requireNumbers(winnower, 'the winnower');
  const speed = speedForLimit(limit, { ...winnower, passes });
  if (speed === null) return null;
  return lossCurve(winnower, [speed / winnower.speedPerSetting], passes)[0]!;
}

/**
 * Ways to meet the limit, each at its own best: one pass, two passes of the nib stream, sieving into two sizes first and
 * winnowing each at its own setting, and gentler air that leaves twice the husk with the rest picked by hand. A way that cannot meet the limit is left out.
 */
export function winnowOptions(
  winnower: FittedWinnower,
  { limit = HUSK_LIMIT }: { limit?: number } = {},
): WinnowOption[] {
  requireLimit(limit);
  requireNumbers(winnower, 'the winnower');
  const options: WinnowOption[] = [];
  for (const [way, passes] of [
    ['one pass', 1],
    ['second pass', 2],
  ] as const) {
    const best = cheapestSetting(winnower, limit, passes);
    if (best)
      options.push({ way, settings: [best.setting], nibLost: best.nibLost, huskInNibs: best.huskInNibs });
  }
  const sieved = twoSizes(winnower, limit);
  if (sieved) options.push(sieved);
  const gentle = cheapestSetting(winnower, PICK_FROM * limit);
  if (gentle)
    options.push({
      way: 'hand picking',
      settings: [gentle.setting],
      nibLost: gentle.nibLost,
      huskInNibs: limit,
    });
  return options;
}

/**
 * Half the nib by mass in each size, each with its own air. Husk flakes do not fall by their breadth, so both sizes hold the
 * same flakes. The two speeds are those that lose least nib while both sizes poured together meet the limit.
 */
function twoSizes(winnower: FittedWinnower, limit: number): WinnowOption | null {
  const { nib, husk } = winnower.speeds;
  const { sharpness, huskShare } = winnower;
  const half = nib.length / 2;
  const small: FallingSpeeds = { husk, nib: nib.slice(0, half) };
  const large: FallingSpeeds = { husk, nib: nib.slice(half) };
  const together = (v: number, w: number) => {
    const [a, b] = [losses(small, { speed: v, sharpness }), losses(large, { speed: w, sharpness })];
    return streams(
      { huskLeft: (a.huskLeft + b.huskLeft) / 2, nibLost: (a.nibLost + b.nibLost) / 2 },
      huskShare,
    );
  };
  let best: { v: number; w: number; made: Separation } | null = null;
  const look = (from: number, to: number, step: number) => {
    for (let v = from; v <= to; v *= step) {
      const w = crossing((speed) => together(v, speed).huskInNibs - limit);
      if (w === null) continue;
      const made = together(v, w);
      if (!best || made.nibLost < best.made.nibLost) best = { v, w, made };
    }
    return best;
  };
  // Coarsely over all speeds, then finely about the best.
  const coarse = look(0.7, 7, 1.15);
  if (coarse) look(coarse.v / 1.13, coarse.v * 1.13, 1.02);
  const found = best as { v: number; w: number; made: Separation } | null;
  if (!found) return null;
  const settings = [found.v, found.w].map((speed) => speed / winnower.speedPerSetting);
  return { way: 'two sizes', settings, nibLost: found.made.nibLost, huskInNibs: found.made.huskInNibs };
}

/** What a way gains in a month against another, in grams of nib and minor units. */
export interface MonthlyGain {
  way: WinnowOption['way'];
  nibMg: number;
  money: number;
  /** Minutes of picking it costs a month; 0 for the other ways. */
  minutes: number;
}

/** Times the limit of husk that gentler air leaves where the rest is picked by hand. */
const PICK_FROM = 2;

/** Husk one hand picks out in an hour, g; a guess to be changed. */
export const PICKED_PER_HOUR_G = 120;

/**
 * Gains of each way over the first of the list, a month. `crackedMg` is what is winnowed a month, `nibPricePerKg` what nib is worth
 * and `labourRate` the hour's wage, minor units; hand picking pays for its minutes.
 */
export function monthlyGains(
  winnower: FittedWinnower,
  options: readonly WinnowOption[],
  { crackedMg, nibPricePerKg, labourRate }: { crackedMg: number; nibPricePerKg: number; labourRate: number },
): MonthlyGain[] {
  requireNotBelow0(crackedMg, 'what is winnowed a month');
  requireNotBelow0(nibPricePerKg, 'the price of nib');
  requireNotBelow0(labourRate, 'the wage');
  const base = options[0];
  if (!base) return [];
  const nibMg = crackedMg * (1 - winnower.huskShare);
  return options.map((o) => {
    const gained = nibMg * (base.nibLost - o.nibLost);
    const left = o.way === 'hand picking' ? lossCurve(winnower, o.settings)[0]!.huskInNibs : o.huskInNibs;
    const picked = Math.max(0, left - o.huskInNibs) * nibMg * (1 - o.nibLost);
    const minutes = (picked / 1000 / PICKED_PER_HOUR_G) * 60;
    return {
      way: o.way,
      nibMg: gained,
      money: (gained / 1e6) * nibPricePerKg - (minutes / 60) * labourRate,
      minutes,
    };
  });
}

/** @throws RangeError for a limit of husk that is no share above 0 and below 1 */
function requireLimit(limit: number): void {
  if (!(limit > 0 && limit < 1))
    throw new RangeError(`a limit of husk is a share above 0 and below 1, not ${limit}`);
}
