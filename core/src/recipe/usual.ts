import { requireNotBelow0 } from '../numerics/index.ts';
import type { ChocolateType } from '../temper/index.ts';

/** A part of a recipe that is begun: a starter ingredient by its key, `bean` for nibs or liquor, and its share of the bowl. */
export interface UsualPart {
  key: string;
  share: number;
}

/**
 * What a recipe of each kind is begun with, shares of the bowl that add up to 1: a middle of what is made, to be changed. Each meets the rules for
 * its sold name where there is one, and flows without more butter. Dark is 70 %, milk 45 % cacao; milk and plant milk have butter, since powder
 * takes fat up; white and fruit have no beans.
 */
export const USUAL_PARTS: Readonly<Record<ChocolateType, readonly UsualPart[]>> = {
  dark: [
    { key: 'bean', share: 0.7 },
    { key: 'cane-sugar', share: 0.3 },
  ],
  milk: [
    { key: 'bean', share: 0.27 },
    { key: 'cocoa-butter', share: 0.18 },
    { key: 'cane-sugar', share: 0.33 },
    { key: 'whole-milk-powder', share: 0.22 },
  ],
  white: [
    { key: 'cocoa-butter', share: 0.32 },
    { key: 'cane-sugar', share: 0.42 },
    { key: 'whole-milk-powder', share: 0.26 },
  ],
  plant: [
    { key: 'bean', share: 0.35 },
    { key: 'cocoa-butter', share: 0.16 },
    { key: 'cane-sugar', share: 0.32 },
    { key: 'oat-powder', share: 0.17 },
  ],
  fruit: [
    { key: 'cocoa-butter', share: 0.38 },
    { key: 'cane-sugar', share: 0.44 },
    { key: 'freeze-dried-raspberry', share: 0.18 },
  ],
};

/** A recipe is begun in whole grams, mg. */
const WHOLE_GRAM = 1000;

/**
 * The weights a recipe of a kind is begun with.
 *
 * @param beansMg nibs or liquor that are there to be used up, mg; none or zero for as much as `totalMg` takes
 * @param totalMg what the bowl is to weigh at most where no beans are there, mg
 * @param mostBeansMg nibs or liquor there are, mg, and no more is asked for; null where nobody knows
 * @returns parts with their weights, mg, whole grams rounded down but for beans that are given: so the bowl is not just short of its cacao, and
 *   does not run over
 * @throws RangeError for a weight that is negative or no number
 */
export function usualRecipe(
  kind: ChocolateType,
  {
    beansMg = 0,
    totalMg,
    mostBeansMg = null,
  }: { beansMg?: number; totalMg: number; mostBeansMg?: number | null },
): { key: string; massMg: number }[] {
  requireNotBelow0(beansMg, 'the weight of the beans, mg,');
  requireNotBelow0(totalMg, 'the weight of the bowl, mg,');
  if (mostBeansMg !== null) requireNotBelow0(mostBeansMg, 'the weight of beans there are, mg,');
  const parts = USUAL_PARTS[kind];
  const whole = (mg: number) => WHOLE_GRAM * Math.floor(mg / WHOLE_GRAM + 1e-9);
  const beans = parts.find((p) => p.key === 'bean');
  const begun =
    beans && (beansMg > 0 ? beansMg : Math.min(whole(totalMg * beans.share), mostBeansMg ?? Infinity));
  return parts.map((p) => ({
    key: p.key,
    massMg: p === beans ? begun! : whole(beans ? (begun! * p.share) / beans.share : totalMg * p.share),
  }));
}
