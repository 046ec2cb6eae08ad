import { requireNumbers } from '../numerics/index.ts';
import type { BeanReading } from './dose.ts';
import { middleOf } from './turningPoint.ts';

/** Cold beans draw a hot probe down by so much at least, K, within so many seconds, and it rises again by so much as they warm. */
const FALL = { kelvin: 25, seconds: 180 } as const;
const RISE = 15;

/** What falls in the first seconds of a log began with the beans, s. */
const FROM_THE_START = 20;

/**
 * When the beans went in, by a log that begins with the preheating: where the probe begins the deep fall it rises from again. That of beans
 * let out rises no more.
 *
 * @param readings in order of time, seconds from anywhere
 * @returns seconds on the log's own clock; null where it tells of no such moment
 * @throws RangeError for readings that are no numbers
 */
export function beansInAt(readings: readonly BeanReading[]): number | null {
  requireNumbers(readings, 'a reading');
  const plain = readings.map((r, i) => ({ ...r, celsius: middleOf(readings, i) }));
  // The hottest still to come, from the back.
  const hottestFrom: number[] = [];
  for (let i = plain.length - 1, hottest = -Infinity; i >= 0; i -= 1)
    hottestFrom[i] = hottest = Math.max(hottest, plain[i]!.celsius);
  let found: number | null = null;
  let deepest = 0;
  for (const [i, from] of plain.entries()) {
    let lowest = i;
    for (let k = i + 1; k < plain.length && plain[k]!.seconds <= from.seconds + FALL.seconds; k += 1)
      if (plain[k]!.celsius < plain[lowest]!.celsius) lowest = k;
    const fall = from.celsius - plain[lowest]!.celsius;
    const rises = hottestFrom[lowest]! - plain[lowest]!.celsius >= RISE;
    // Of a level stretch before it the end counts.
    if (fall < FALL.kelvin || !rises || fall < deepest - 1) continue;
    found = from.seconds;
    deepest = Math.max(fall, deepest);
  }
  return found !== null && found - plain[0]!.seconds > FROM_THE_START ? found : null;
}
