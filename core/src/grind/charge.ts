import { requireAbove0, requireNotBelow0 } from '../numerics/index.ts';
/** Usable charge of a machine in mg; null where unknown. */
export interface UsableCharge {
  minMg: number | null;
  maxMg: number | null;
}

/** Whether a charge fits a machine: below the minimum the stones run dry, above the maximum it climbs out. */
export function checkCharge(
  massMg: number,
  { minMg, maxMg }: UsableCharge,
): 'fits' | 'too-little' | 'too-much' {
  requireAbove0(massMg, 'the charge');
  if (minMg !== null) requireNotBelow0(minMg, 'the least charge');
  if (maxMg !== null) requireAbove0(maxMg, 'the greatest charge');
  if (minMg !== null && massMg < minMg) return 'too-little';
  return maxMg !== null && massMg > maxMg ? 'too-much' : 'fits';
}
