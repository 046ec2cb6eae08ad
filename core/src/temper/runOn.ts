import { leastSquares, quantile, requireNumbers } from '../numerics/index.ts';
import { inTheBowl } from './probeOut.ts';
import type { BowlReading } from './window.ts';

/** How a bowl ran on after it had been lifted off water or ice. */
export interface RunOn {
  /** Its pace when it was lifted, held for so long, is how far it ran on, s. */
  seconds: number;
  /** Standard error, s. */
  se: number;
  /** How far it still cooled, K. */
  droppedK: number;
  /** When it was lifted, seconds of its log. */
  liftedAt: number;
}

/** What a bowl does after it is lifted, as earlier bowls did. */
export interface LearnedRunOn {
  seconds: number;
  /** Bowls it rests on. */
  bowls: number;
}

/** What is looked at before and after the coldest reading, s. */
const BEFORE = 300;
const AFTER = 40;

/** Readings that are enough to tell, and the shortest log before the coldest one, s. */
const ENOUGH_READINGS = 12;
const SHORTEST = 90;

/** A pace below this says nothing of running on, K/s; nor does so small a drop, K. */
const LEAST_PACE = 0.15 / 60;
const LEAST_DROP = 0.1;

/** In air a stirred bowl drifts at most so fast, K/s. */
const DRIFT = 0.002;

/** No bowl runs on for less, or for longer, s. */
const BETWEEN = [3, 240] as const;

/** What is worse known than this share of itself is not believed. */
const BELIEVED = 0.5;

/** Bowls from which on a bowl has a figure of its own. */
const ENOUGH_BOWLS = 3;

/**
 * How a bowl ran on, read off its log: down to where it was lifted it falls ever more slowly; from then on the colder wall draws what it still can, and the
 * fall dies away exponentially (two bodies in contact). Fitted to the minutes before the coldest reading by least squares.
 *
 * @param readings in order of time, s and °C
 * @returns null where the log does not tell: too short, never cooled at a pace, or not left alone for long enough
 * @throws RangeError for readings that are no numbers
 */
export function runOnOf(readings: readonly BowlReading[]): RunOn | null {
  requireNumbers(readings, 'a reading');
  const clean = inTheBowl(readings);
  if (clean.length < ENOUGH_READINGS) return null;
  const coldest = clean.reduce((a, b) => (b.celsius < a.celsius ? b : a));
  const near = clean.filter(
    (r) => r.seconds >= coldest.seconds - BEFORE && r.seconds <= coldest.seconds + AFTER,
  );
  const first = near[0]!;
  if (near.length < ENOUGH_READINGS || coldest.seconds - first.seconds < SHORTEST) return null;
  // Where the first guess of when it was lifted leads nowhere, others are tried.
  for (const share of [0.6, 0.35, 0.8]) {
    const told = fitFrom(near, coldest, share);
    if (told) return told;
  }
  return null;
}

/** Fits a fall and what became of it from a guess at when the bowl was lifted; null where that tells nothing. */
function fitFrom(near: readonly BowlReading[], coldest: BowlReading, share: number): RunOn | null {
  const first = near[0]!;
  const span = coldest.seconds - first.seconds;
  const drop = first.celsius - coldest.celsius;
  const fit = leastSquares({
    residuals: (parameters) => {
      const at = curveOf(parameters, first.seconds);
      return near.map((r) => at(r.seconds) - r.celsius);
    },
    start: [coldest.celsius + 0.3 * drop, (0.7 * drop) / (span * share), share * span, 40, 1e-5, 0],
    lower: [coldest.celsius - 1, 0, 10, BETWEEN[0], 0, -DRIFT],
    upper: [first.celsius + 1, 0.5, span + AFTER, BETWEEN[1], 0.001, DRIFT],
    scale: [1, 0.01, 30, 10, 1e-5, 0.001],
    maxIterations: 60,
    tolerance: 1e-9,
  });
  const [, pace, lifted, seconds] = fit.parameters as [number, number, number, number];
  const se = fit.standardErrors[3]!;
  const droppedK = pace * seconds;
  const isTold =
    Number.isFinite(fit.sumOfSquares) &&
    pace >= LEAST_PACE &&
    droppedK >= LEAST_DROP &&
    seconds > BETWEEN[0] * 1.01 &&
    seconds < BETWEEN[1] * 0.99 &&
    se <= BELIEVED * seconds &&
    // It must have been left alone until most of it was over.
    span - lifted >= seconds;
  return isTold ? { seconds, se, droppedK, liftedAt: first.seconds + lifted } : null;
}

/** °C at a second: falling ever more slowly to where it is lifted, and from then on a fall that dies away beside a slow drift. */
function curveOf(parameters: readonly number[], from: number): (seconds: number) => number {
  const [atLift, pace, lifted, tau, bend, drift] = parameters as [
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  return (seconds) => {
    const before = lifted - (seconds - from);
    if (before >= 0) return atLift + pace * before + bend * before ** 2;
    return atLift - pace * tau * (1 - Math.exp(before / tau)) - drift * before;
  };
}

/** How a bowl runs on, as the middle of the bowls that told; null below three. @throws RangeError for seconds that are none */
export function learnRunOn(seconds: readonly number[]): LearnedRunOn | null {
  for (const s of seconds)
    if (!(s > 0 && Number.isFinite(s))) throw new RangeError(`a bowl runs on for more than 0 s, not ${s}`);
  return seconds.length < ENOUGH_BOWLS
    ? null
    : { seconds: quantile([...seconds], 0.5), bowls: seconds.length };
}
