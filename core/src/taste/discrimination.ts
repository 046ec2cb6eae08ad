import { binomialInterval, binomialTail, requireBetween, requireWhole } from '../numerics/index.ts';

/** Forced-choice tests, with the chance to be right by guessing. */
export const FORCED_CHOICE = { triangle: 1 / 3, 'duo-trio': 1 / 2, paired: 1 / 2 } as const;

/** One forced-choice test. */
export type ForcedChoice = keyof typeof FORCED_CHOICE;

/** What a forced-choice test says. */
export interface ChoiceResult {
  /** Exact chance of as many right answers by guessing. */
  p: number;
  decided: boolean;
  /** Share of people who truly tell the samples apart, with its exact 95 % interval (0 where guessing explains it). */
  discriminators: number;
  low: number;
  high: number;
  /** Right answers needed for p < 0.05; null where even all right would not do. */
  critical: number | null;
}

/**
 * The exact binomial test of a forced choice: `right` of `answers`. A paired test asks "which is better" or "which is stronger" with
 * no right answer known beforehand when `sides` is 2: then either excess counts, and `right` is how many chose one of the two.
 *
 * @throws RangeError where right is not a count of answers
 * @example forcedChoice('triangle', 5, 8).p // 0.0879
 */
export function forcedChoice(
  test: ForcedChoice,
  right: number,
  answers: number,
  sides: 1 | 2 = 1,
): ChoiceResult {
  requireWhole(answers, 'the number of answers', 1);
  requireWhole(right, 'the number of right answers');
  requireBetween(right, 0, answers, 'the number of right answers');
  requireSides(test, sides);
  const guess = FORCED_CHOICE[test];
  const p = chance(test, sides === 2 ? Math.max(right, answers - right) : right, answers, sides);
  const [low, high] = binomialInterval(sides === 2 ? Math.max(right, answers - right) : right, answers);
  const share = (x: number) => Math.max(0, (x - guess) / (1 - guess));
  return {
    p,
    decided: p < 0.05,
    discriminators: share((sides === 2 ? Math.max(right, answers - right) : right) / answers),
    low: share(low),
    high: share(high),
    critical: criticalCount(test, answers, sides),
  };
}

function chance(test: ForcedChoice, right: number, answers: number, sides: 1 | 2): number {
  return Math.min(1, sides * binomialTail(right, answers, FORCED_CHOICE[test]));
}

/** A two-sided question has equal chances for both answers, which only a pair offers. */
function requireSides(test: ForcedChoice, sides: 1 | 2): void {
  if (sides === 2 && test !== 'paired')
    throw new RangeError(`a ${test} test has a right answer and is one-sided`);
}

/**
 * Fewest right answers of `answers` that guessing reaches with a chance below `level`; null where none does.
 *
 * @example criticalCount('triangle', 24) // 13
 */
export function criticalCount(
  test: ForcedChoice,
  answers: number,
  sides: 1 | 2 = 1,
  level = 0.05,
): number | null {
  requireWhole(answers, 'the number of answers', 1);
  requireBetween(level, 1e-9, 0.5, 'the level of a test');
  requireSides(test, sides);
  if (chance(test, answers, answers, sides) > level) return null;
  // The chance falls with every right answer more: the first that is rare enough, by halving.
  let [common, rare] = [-1, answers];
  while (rare - common > 1) {
    const right = Math.floor((common + rare) / 2);
    if (chance(test, right, answers, sides) <= level) rare = right;
    else common = right;
  }
  return rare;
}

/**
 * Chance that `answers` answers find what a share of `discriminators` (0–1) truly tell apart, at 5 %.
 *
 * @example choicePower('triangle', 24, 0.5) // 0.932
 */
export function choicePower(
  test: ForcedChoice,
  answers: number,
  discriminators: number,
  sides: 1 | 2 = 1,
): number {
  requireBetween(discriminators, 0, 1, 'the share who tell them apart');
  const critical = criticalCount(test, answers, sides);
  if (critical === null) return 0;
  const guess = FORCED_CHOICE[test];
  const right = guess + discriminators * (1 - guess);
  const upper = binomialTail(critical, answers, right);
  if (sides === 1) return upper;
  const lower = 1 - binomialTail(answers - critical + 1, answers, right);
  return Math.min(1, upper + lower);
}

/**
 * Fewest answers from which on a test finds what a share of `discriminators` tell apart with at least chance `power`, also with a
 * few answers more (the exact power goes up in a saw's teeth). Null where more than 2,000 would be needed.
 *
 * @example answersNeeded('triangle', 0.5) // 16
 */
export function answersNeeded(
  test: ForcedChoice,
  discriminators: number,
  power = 0.8,
  sides: 1 | 2 = 1,
): number | null {
  requireBetween(discriminators, 0.01, 1, 'the share who tell them apart');
  requireBetween(power, 0.05, 0.999, 'the chance to find it');
  let from: number | null = null;
  for (let n = 1; n <= 2000; n += 1) {
    if (choicePower(test, n, discriminators, sides) < power) from = null;
    else {
      from ??= n;
      if (n >= from + 6) return from;
    }
  }
  return from;
}
