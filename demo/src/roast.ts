import {
  makeBean,
  makeOven,
  planMinutes,
  shiftOven,
  simulateRoast,
  type RoastPlan,
} from '@wunsch/core/roast';
import type { Scribe } from './scribe.ts';
import type { DemoLot } from './workshop.ts';

/**
 * What the fan oven of Saltmarsh Row really is, which nobody there knows: it gives the beans more heat than usual, its
 * heater is weaker, its thermostat slower, and its air stays below the dial. Order as core's learnt figures.
 */
export const HIDDEN_OVEN = [0.2, -0.2, 0.35, -3.5] as const;

/** How one roast differs from another in the same oven. */
const BETWEEN = [0.04, 0.03, 0.1, 1] as const;

/** Seconds between the probes' readings in the records. */
const EVERY = 20;

/** One load as the probes and the scale saw it. */
export interface DemoRoast {
  seconds: number[];
  bean: number[];
  oven: number[];
  minutes: number;
  lossShare: number;
}

/** Roasts a load by the core's own model with the oven's hidden figures, and reads it with noisy probes. */
export function roastLoad(
  scribe: Scribe,
  {
    plan,
    lot,
    loadKg,
    extraMinutes,
    stirs,
  }: { plan: RoastPlan; lot: DemoLot; loadKg: number; extraMinutes: number; stirs: readonly number[] },
): DemoRoast {
  const minutes = planMinutes(plan) + extraMinutes;
  const oven = shiftOven(
    makeOven({ kind: 'fan', usableKg: 3 }),
    HIDDEN_OVEN.map((v, i) => scribe.normal(v, BETWEEN[i]!)),
  );
  const run = simulateRoast({
    bean: makeBean(lot.facts),
    oven,
    plan,
    loadKg,
    roomC: scribe.normal(20, 1),
    events: stirs.map((m) => ({ seconds: m * 60, kind: 'stir' as const })),
    until: minutes * 60,
    shells: 10,
    step: 4,
    sampleEvery: EVERY,
  });
  const read = (values: Float64Array, noise: number) =>
    Array.from(values, (v) => Math.round(scribe.normal(v, noise) * 10) / 10);
  return {
    seconds: [...run.seconds],
    bean: read(run.bean, 0.3),
    oven: read(run.air, 0.6),
    minutes,
    lossShare: run.lossShare,
  };
}
