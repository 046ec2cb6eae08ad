import { requireAbove0, requireAllFinite, requireNotBelow0 } from './require.ts';

/**
 * Parts in steps that still add up to what they come to together: each is rounded down, and what is left over goes, a step each, to those
 * that lost most (largest remainders), of equals to the smaller.
 *
 * @param parts of either sign, in the unit of `step`
 * @param step above 0
 * @returns as long and in the order of `parts`, whole numbers of steps
 * @throws RangeError for parts or a step that are none
 */
export function partsInSteps(parts: readonly number[], step: number): number[] {
  requireAbove0(step, 'a step');
  requireAllFinite(parts, 'part');
  const exact = parts.map((s) => s / step);
  // Sums of tenths come out a little below what they are.
  const whole = exact.map((s) => Math.floor(s + 1e-9));
  const left = Math.round(exact.reduce((a, b) => a + b, 0)) - whole.reduce((a, b) => a + b, 0);
  const lost = exact.map((s, i) => s - whole[i]!);
  const next = exact
    .map((_, i) => i)
    .sort((a, b) => (Math.abs(lost[a]! - lost[b]!) > 1e-9 ? lost[b]! - lost[a]! : exact[a]! - exact[b]!));
  for (const i of next.slice(0, left)) whole[i] = whole[i]! + 1;
  return whole;
}

/**
 * Shares of a whole in steps, as {@link partsInSteps} does.
 *
 * @param shares each 0 or more
 * @param step above 0, in the unit of the shares (0.05 for shares of 1 in steps of 5 %)
 * @returns as long and in the order of `shares`, whole numbers of steps
 * @throws RangeError for shares or a step that are none
 */
export function sharesInSteps(shares: readonly number[], step: number): number[] {
  requireAllFinite(shares, 'share');
  shares.forEach((s, i) => requireNotBelow0(s, `share ${i + 1}`));
  return partsInSteps(shares, step);
}
