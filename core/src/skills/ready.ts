import { requireNotBelow0 } from '../numerics/index.ts';
import { USUAL_GOOD_RUNS, USUAL_POINTS } from './defaults.ts';

/** When a workshop thinks somebody ready to be signed off. */
export interface SignOffRule {
  /** Good runs of the last ones looked back on. */
  goodRuns: number;
  /** Points of 100 on level 2 or 3 of the trainer. */
  points: number;
}

/** The rule where a workshop has none of its own. */
export const USUAL_SIGN_OFF: SignOffRule = { goodRuns: USUAL_GOOD_RUNS, points: USUAL_POINTS };

/** Runs of a person at a station, of the last that are looked back on. */
export interface RunCount {
  /** Found good. */
  good: number;
  /** Done where nothing measured could tell good from not good. */
  done: number;
}

/** How far somebody is from being signed off at a station. */
export interface Readiness {
  isReady: boolean;
  /** Runs that count, and how many are needed. */
  counted: number;
  needed: number;
  /** Whether it is practice that makes them ready. */
  byPractice: boolean;
}

/**
 * Whether somebody is ready to be signed off at a station: after so many good runs, or so many points in the trainer with a machine of
 * its own. It is advice to whoever signs; a person does that.
 *
 * @param practised best points by level, of lessons of that station
 * @throws RangeError for a count or points below 0
 */
export function readyToSign(
  { good, done }: RunCount,
  practised: readonly { level: number; points: number }[],
  rule: SignOffRule = USUAL_SIGN_OFF,
): Readiness {
  requireNotBelow0(good, 'a number of runs');
  requireNotBelow0(done, 'a number of runs');
  requireNotBelow0(rule.goodRuns, 'the runs that are needed');
  requireNotBelow0(rule.points, 'the points that are needed');
  for (const p of practised) requireNotBelow0(p.points, 'points');
  const counted = good + done;
  const byPractice = practised.some((p) => p.level >= 2 && p.points >= rule.points);
  return {
    isReady: byPractice || counted >= rule.goodRuns,
    counted,
    needed: rule.goodRuns,
    byPractice,
  };
}
