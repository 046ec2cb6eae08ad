import { requireAbove0, requireNumbers } from '../numerics/index.ts';

/** How a thing that is measured can change at all. */
export interface Bounds {
  /** Jump that a probe that is moved or noisy may show, K. */
  slack: number;
  /** Fastest that the thing itself warms or cools, K/s. */
  fastest: number;
  /** What has jumped and stays there for so long, s, is no fault of the probe. */
  settles: number;
}

/** Fewer readings than this tell nothing of what a probe does. */
const FEWEST = 12;

/**
 * Leaves out what no thing can have done: a loose plug, an electric spark or a probe that restarts shows a value, or a few of them, far from what was before and
 * is afterwards. What has jumped and stays is kept from its first reading on; of a jump that is just seen it is not known yet, and it is left out for so long. Where
 * a series begins with a fault, that is what is left out. What was typed by a hand stands: several readings may be typed within seconds.
 *
 * @param readings in order of time
 * @returns the readings that stand, as they are
 * @throws RangeError for readings that are no numbers and bounds not above 0
 */
export function believable<R extends { seconds: number; celsius: number; byHand?: boolean }>(
  readings: readonly R[],
  { slack, fastest, settles }: Bounds,
): R[] {
  requireNumbers(
    readings.map((r) => [r.seconds, r.celsius]),
    'a reading',
  );
  requireAbove0(slack, 'the jump a probe may show');
  requireAbove0(fastest, 'the fastest change');
  requireAbove0(settles, 'the time a jump stays');
  const fit = (a: R, b: R) =>
    Math.abs(b.celsius - a.celsius) <= slack + fastest * Math.abs(b.seconds - a.seconds);
  const spanOf = (list: readonly R[]) => (list.length === 0 ? 0 : list.at(-1)!.seconds - list[0]!.seconds);
  const probed = readings.filter((r) => !r.byHand);
  if (probed.length < FEWEST) return [...readings];
  let kept: R[] = [];
  let aside: R[] = [];
  for (const reading of probed) {
    const last = kept.at(-1);
    if (!last || fit(last, reading)) {
      // What was put aside and goes on so was a change faster than one had thought.
      if (aside.length > 0 && fit(aside.at(-1)!, reading)) kept.push(...aside);
      aside = [];
      kept.push(reading);
      continue;
    }
    if (aside.length > 0 && !fit(aside.at(-1)!, reading)) aside = [];
    aside.push(reading);
    if (spanOf(aside) < settles) continue;
    // So short a beginning was the fault, and this is the thing.
    if (spanOf(kept) < settles && kept.length <= aside.length) kept = [];
    kept.push(...aside);
    aside = [];
  }
  if (probed.length === readings.length) return kept;
  const stands = new Set(kept);
  return readings.filter((r) => r.byHand || stands.has(r));
}
