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

/** Most machines a charge is parted between in the search. */
const MOST_MACHINES = 12;

/**
 * How a charge that is too much for one machine is parted: between as few of them as take it, those it fills best, each by what it holds. Nothing
 * is put where it would be too little.
 *
 * @param machines those that are free, of which no more than the first twelve are looked at; one without a greatest charge is left out
 * @returns what goes into each, mg, in the order of the machines and 0 where nothing does; null where no parting fits
 * @throws RangeError where the charge or a bound is no mass above 0 (a least charge may be 0)
 * @example 9.5 kg between one of 2–9 kg and one of 1–4 kg → 6.58 and 2.92 kg
 */
export function partCharge(massMg: number, machines: readonly UsableCharge[]): number[] | null {
  requireAbove0(massMg, 'the charge');
  const known = machines.flatMap(({ minMg, maxMg }, i) => {
    if (minMg !== null) requireNotBelow0(minMg, 'the least charge');
    if (maxMg === null) return [];
    requireAbove0(maxMg, 'the greatest charge');
    return [{ i, min: minMg ?? 0, max: maxMg }];
  });
  const looked = known.slice(0, MOST_MACHINES);
  let best: typeof looked | null = null;
  const holds = (of: typeof looked) => of.reduce((sum, m) => sum + m.max, 0);
  for (let chosen = 1; chosen < 2 ** looked.length; chosen += 1) {
    const of = looked.filter((_, k) => (chosen >> k) & 1);
    const least = of.reduce((sum, m) => sum + m.min, 0);
    if (massMg > holds(of) || massMg < least || of.some((m) => m.min > m.max)) continue;
    const isBetter =
      best === null || of.length < best.length || (of.length === best.length && holds(of) < holds(best));
    if (isBetter) best = of;
  }
  if (best === null) return null;
  // By what each holds; where that is too little for one, it gets its least and the others share the rest.
  const parts = Array.from(machines, () => 0);
  let open = best;
  let left = massMg;
  for (;;) {
    const per = left / holds(open);
    const low = open.filter((m) => m.max * per < m.min);
    for (const m of low.length > 0 ? low : open) {
      parts[m.i] = low.length > 0 ? m.min : Math.floor(m.max * per);
      left -= parts[m.i]!;
    }
    if (low.length === 0) break;
    open = open.filter((m) => !low.includes(m));
  }
  // What rounding left over goes where there is room for it.
  for (const m of open) {
    const more = Math.min(left, m.max - parts[m.i]!);
    parts[m.i]! += more;
    left -= more;
  }
  return parts;
}
