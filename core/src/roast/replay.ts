import { Matrix } from 'ml-matrix';
import type { LoggedRoast } from './logged.ts';
import { shared, USUAL_MISSES } from './misses.ts';
import { PROBE_SD, shiftOven, START_SD, type Oven } from './oven.ts';
import { runAt, simulateRoast, type RoastRun } from './simulate.ts';

/** Coarser grid for fits: a tenth of a kelvin from the fine one. */
const COARSE = { shells: 10, step: 5, sampleEvery: 15 } as const;

/** Longest that is replayed, s. */
const LONGEST = 6 * 3600;

/** By how much what is in the oven at the start is warmer than its first readings say, K. */
interface StartShift {
  beanC: number;
  airC: number;
}

/** Runs the model along a logged roast, as long as its probes did, or until so many seconds after beans-in. */
export function replay(
  roast: LoggedRoast,
  oven: Oven,
  { until, from = { beanC: 0, airC: 0 } }: { until?: number; from?: StartShift } = {},
): RoastRun {
  const air = startAir(roast);
  const last = Math.max(roast.beanReadings.at(-1)?.seconds ?? 0, roast.ovenReadings.at(-1)?.seconds ?? 0);
  return simulateRoast({
    ...COARSE,
    bean: roast.bean,
    oven,
    plan: roast.plan,
    loadKg: roast.loadKg,
    roomC: startBean(roast) + from.beanC,
    airC: air === undefined ? undefined : air + from.airC,
    events: roast.events,
    until: Math.min(until ?? Math.max(last, 60) + 15, LONGEST),
  });
}

/** Beans go in at what their probe first reads, if it reads early and sensibly; else at room temperature. */
export function startBean({ beanReadings, roomC = 21 }: LoggedRoast): number {
  const first = beanReadings[0];
  return first && first.seconds <= 10 && first.celsius > 0 && first.celsius < 45 ? first.celsius : roomC;
}

/** The air begins at what its probe first reads, if it reads early; else undefined. */
export function startAir({ ovenReadings }: LoggedRoast): number | undefined {
  const first = ovenReadings[0];
  return first && first.seconds <= 45 ? first.celsius : undefined;
}

/** Measured readings of a roast, its beans' first. */
export const measured = ({ beanReadings, ovenReadings }: LoggedRoast): number[] =>
  [...beanReadings, ...ovenReadings].map((r) => r.celsius);

/** What the model says the probes should have read, in the order of {@link measured}. */
export const readOff = (roast: LoggedRoast, run: RoastRun): number[] => [
  ...roast.beanReadings.map((b) => runAt(run, 'bean', b.seconds)),
  ...roast.ovenReadings.map((b) => runAt(run, 'air', b.seconds)),
];

/** Something read off a run of the model, and how it moves. */
export interface Linearised {
  here: number[];
  /** One row a value, one column a shift of the oven. */
  jacobian: Matrix;
  /** One row a value; by a kelvin more of beans, and of air, at the start. */
  starts: Matrix;
}

/** How what is read off a replayed roast moves with each shift of its oven, and with a kelvin of what it starts from. */
export function linearised(
  start: Oven,
  roast: LoggedRoast,
  shifts: readonly number[],
  values: (run: RoastRun) => number[],
  until?: number,
): Linearised {
  const at = (s: readonly number[], from?: StartShift) =>
    values(replay(roast, shiftOven(start, s), { until, from }));
  const here = at(shifts);
  const columns = shifts.map((_, i) => {
    const h = i === 3 ? 0.2 : 0.02;
    const moved = at(shifts.map((v, k) => (k === i ? v + h : v)));
    return moved.map((v, k) => (v - here[k]!) / h);
  });
  const starts = [
    { beanC: 1, airC: 0 },
    { beanC: 0, airC: 1 },
  ].map((from) => at(shifts, from).map((v, k) => v - here[k]!));
  return {
    here,
    jacobian: new Matrix(columns).transpose(),
    starts: new Matrix(starts).transpose(),
  };
}

/**
 * Covariance of values about what the model says, as the roast's own oven, with the given covariance of its shifts, and its own start
 * move them.
 */
export function ownCovariance({ jacobian, starts }: Linearised, shifts: Matrix): Matrix {
  const start = Matrix.diag([START_SD.bean ** 2, START_SD.air ** 2]);
  const C = jacobian.mmul(shifts).mmul(jacobian.transpose());
  return C.add(starts.mmul(start).mmul(starts.transpose()));
}

/** Adds what probes read beside the model to the covariance of a roast's readings, in its first rows. */
export function addProbes(C: Matrix, roast: LoggedRoast): void {
  const beans = roast.beanReadings.length;
  const all = [...roast.beanReadings, ...roast.ovenReadings];
  for (let i = 0; i < all.length; i += 1)
    for (let k = 0; k < all.length; k += 1) {
      const [isBean, alike] = [i < beans, i < beans === k < beans];
      if (!alike) continue;
      const { stray, noise } = USUAL_MISSES[isBean ? 'bean' : 'air'];
      const together = (isBean ? PROBE_SD ** 2 : 0) + stray ** 2 * shared(all[i]!.seconds - all[k]!.seconds);
      C.set(i, k, C.get(i, k) + together + (i === k ? noise ** 2 : 0));
    }
}
