import type { Bean } from './bean.ts';
import type { BeanReading } from './dose.ts';
import type { RoastPlan } from './plan.ts';
import type { RoastEvent } from './simulate.ts';

/** A roast that was logged: what went in, what was set, what was done, what the probes read. */
export interface LoggedRoast {
  bean: Bean;
  plan: RoastPlan;
  loadKg: number;
  roomC?: number;
  events: readonly RoastEvent[];
  /** Bean and oven probe in order of time; either may be empty. */
  beanReadings: readonly BeanReading[];
  ovenReadings: readonly BeanReading[];
}

/** Readings used of each probe of each roast. */
const USED = 40;

/** At most {@link USED} readings, evenly taken. */
export function thinReadings(readings: readonly BeanReading[], count: number = USED): BeanReading[] {
  if (readings.length <= count) return [...readings];
  return Array.from(
    { length: count },
    (_, i) => readings[Math.round((i * (readings.length - 1)) / (count - 1))]!,
  );
}
