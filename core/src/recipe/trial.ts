import { mean, requireBetween, sampleSd, studentQuantile } from '../numerics/index.ts';

/** One arm of a trial: what was varied, and the scores its tastings gave. */
export interface TrialArm {
  label: string;
  /** Liking 0–10, one a taster and sitting. */
  scores: readonly number[];
}

/** The difference of two arms with its interval; `decided` where the interval leaves 0 out. */
export interface ArmDifference {
  difference: number;
  low: number;
  high: number;
  decided: boolean;
}

/**
 * Difference of mean scores a − b with Welch's 95 % interval (Welch 1947, Satterthwaite's degrees of freedom). Null below two
 * scores in either arm.
 */
export function compareArms(a: TrialArm, b: TrialArm): ArmDifference | null {
  [a, b].forEach(requireScores);
  const [n, m] = [a.scores.length, b.scores.length];
  if (n < 2 || m < 2) return null;
  const [u, v] = [sampleSd(a.scores) ** 2 / n, sampleSd(b.scores) ** 2 / m];
  const difference = mean(a.scores) - mean(b.scores);
  if (u + v === 0) return { difference, low: difference, high: difference, decided: difference !== 0 };
  const freedom = (u + v) ** 2 / (u ** 2 / (n - 1) + v ** 2 / (m - 1));
  const half = studentQuantile(0.975, freedom) * Math.sqrt(u + v);
  const [low, high] = [difference - half, difference + half];
  return { difference, low, high, decided: low > 0 || high < 0 };
}

/** The arm with the highest mean score, and whether it is clear of the next; null while no arm has a score. */
export function winner(arms: readonly TrialArm[]): { label: string; clear: boolean } | null {
  arms.forEach(requireScores);
  const ranked = arms.filter((a) => a.scores.length > 0).sort((a, b) => mean(b.scores) - mean(a.scores));
  const [first, second] = ranked;
  if (!first) return null;
  return { label: first.label, clear: second ? (compareArms(first, second)?.decided ?? false) : false };
}

/** @throws RangeError for a score outside 0–10 */
function requireScores({ scores }: TrialArm): void {
  for (const score of scores) requireBetween(score, 0, 10, 'a score');
}
