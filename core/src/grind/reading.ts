import { requireAbove0 } from '../numerics/index.ts';
import { READING_U_RELATIVE, READING_U_UM } from './defaults.ts';

/** How grit was found. */
export type GritMethod = 'micrometer' | 'grindometer' | 'tongue';

/** What a tongue says. */
export type TongueWord = 'none' | 'hint' | 'gritty';

/** A grit reading as it was taken. */
export interface TakenGrit {
  method: GritMethod;
  /** Micrometer reading, or the grindometer's dense band, µm. */
  um: number | null;
  /** Grindometer's last scratch, µm. */
  scratchUm?: number | null;
  tongue?: TongueWord | null;
}

/** A grit in µm with its standard uncertainty. */
export interface GritValue {
  um: number;
  uUm: number;
}

/** What the words of a tongue stand for, µm: most people feel grains from about 20–30 µm (trade figures). */
export const TONGUE_UM: Readonly<Record<TongueWord, GritValue>> = {
  none: { um: 17, uUm: 5 },
  hint: { um: 26, uUm: 6 },
  gritty: { um: 48, uUm: 20 },
};

/**
 * A reading as µm with its uncertainty: a micrometer √(1 µm² + (5 %)²); a grindometer's dense band twice that, and more where the last
 * scratch lies far off; a tongue by its word. Null where the method's number or word is missing.
 */
export function gritValue({ method, um, scratchUm, tongue }: TakenGrit): GritValue | null {
  if (method === 'tongue') return tongue ? TONGUE_UM[tongue] : null;
  if (um === null || !(um > 0)) return null;
  const plain = micrometerUncertainty(um);
  if (method === 'micrometer') return { um, uUm: plain };
  return { um, uUm: Math.hypot(2 * plain, scratchUm ? Math.max(0, scratchUm - um) / 4 : 0) };
}

/** Standard uncertainty of a micrometer reading, µm. */
export function micrometerUncertainty(um: number): number {
  requireAbove0(um, 'a grit in µm');
  return Math.hypot(READING_U_UM, READING_U_RELATIVE * um);
}
