import { normalDraw } from '../../numerics/index.ts';
import type { BeanReading, RoastRun } from '../../roast/index.ts';
import { wander } from './wander.ts';

/** A roast as its probes read it, every so many seconds as it was sampled: the one among the beans is off throughout, and both wander. */
export function probed(
  random: () => number,
  run: RoastRun,
  every: number,
): { beanReadings: BeanReading[]; ovenReadings: BeanReading[] } {
  const off = normalDraw(random);
  const beanError = wander(random, { spread: 0.8, noise: 0.4, forgets: 300, every });
  const airError = wander(random, { spread: 2, noise: 0.8, forgets: 300, every });
  const read = (column: 'bean' | 'air', error: () => number) =>
    Array.from(run.seconds, (seconds, i) => ({ seconds, celsius: run[column][i]! + error() }));
  return { beanReadings: read('bean', () => off + beanError()), ovenReadings: read('air', airError) };
}
