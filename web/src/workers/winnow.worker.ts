import { expose } from 'comlink';
import {
  cheapestSetting,
  fitWinnower,
  lossCurve,
  winnowOptions,
  type FittedWinnower,
  type SettingChecks,
  type SettingPoint,
  type WinnowOption,
} from '@wunsch/core/winnow';

/** A winnower as the winnow station draws it. */
export interface DrawnWinnower {
  winnower: FittedWinnower;
  /** Gentlest air that meets the limit; null where none does. */
  best: SettingPoint | null;
  options: WinnowOption[];
  curve: SettingPoint[];
}

const POINTS = 41;

const api = {
  /** Fits the winnower to its checks, and works out what each way of winnowing loses at a husk limit (share by mass). */
  draw(checks: readonly SettingChecks[], limit: number): DrawnWinnower {
    const winnower = fitWinnower(checks);
    const best = cheapestSetting(winnower, limit);
    const middle = best?.setting ?? checks[0]?.setting ?? 1;
    const settings = Array.from({ length: POINTS }, (_, i) => middle * (0.5 + (1.1 * i) / (POINTS - 1)));
    return {
      winnower,
      best,
      options: winnowOptions(winnower, { limit }),
      curve: lossCurve(winnower, settings),
    };
  },
};

/** What the winnow worker answers. */
export type WinnowWorker = typeof api;

expose(api);
