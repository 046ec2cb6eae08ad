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
  if (minMg !== null && massMg < minMg) return 'too-little';
  return maxMg !== null && massMg > maxMg ? 'too-much' : 'fits';
}
