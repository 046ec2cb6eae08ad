import { mean, requireBetween, sampleSd, studentQuantile } from '../numerics/index.ts';
import { comparePanel, isRepeated } from '../taste/index.ts';

/** One arm of a trial: what was varied, and the scores its tastings gave. */
export interface TrialArm {
  label: string;
  /** Liking 0–10, one a taster and sitting. */
  scores: readonly number[];
  /** Who gave each score; where left out, nobody is taken to have tasted two arms. */
  tasters?: readonly string[];
}

/** The difference of two arms with its 95 % interval; `decided` where the interval leaves 0 out. */
export interface ArmDifference {
  difference: number;
  low: number;
  high: number;
  decided: boolean;
}

/** Standard uncertainty of a score that is given to half a point at best: the rounding of JCGM 100:2008, 4.3.7. */
const SCORE_U = 0.5 / Math.sqrt(12);

/**
 * Difference of liking a − b. Where the same tasters scored the arms, how high each of them scores everything is taken out, as in a panel
 * ({@link comparePanel}: the interval holds for all differences of the trial at once); otherwise the means with Welch's interval (Welch 1947,
 * Satterthwaite's degrees of freedom). Scores that happen to agree are no surer than scores are given.
 *
 * @param all every arm of the trial, these two among them: the others tell about tasters and noise
 * @returns null below two scores in either arm
 * @throws RangeError for a score outside 0–10, or tasters of another number than scores
 */
export function compareArms(
  a: TrialArm,
  b: TrialArm,
  all: readonly TrialArm[] = [a, b],
): ArmDifference | null {
  [a, b, ...all].forEach(requireScores);
  const [n, m] = [a.scores.length, b.scores.length];
  if (n < 2 || m < 2) return null;
  const least = SCORE_U * Math.sqrt(1 / n + 1 / m);
  const found = amongTasters(a, b, all) ?? welch(a.scores, b.scores);
  const half = Math.max(found.half, studentQuantile(0.975, n + m - 2) * least);
  const [low, high] = [found.difference - half, found.difference + half];
  return { difference: found.difference, low, high, decided: low > 0 || high < 0 };
}

/** The arm with the highest mean score, and whether it is clear of the next; null while no arm has a score. */
export function winner(arms: readonly TrialArm[]): { label: string; clear: boolean } | null {
  arms.forEach(requireScores);
  const [first, second] = rankedArms(arms);
  if (!first) return null;
  return { label: first.label, clear: second ? (compareArms(first, second, arms)?.decided ?? false) : false };
}

/** Arms that were scored, the best liked first. */
export function rankedArms(arms: readonly TrialArm[]): TrialArm[] {
  arms.forEach(requireScores);
  return arms.filter((a) => a.scores.length > 0).sort((a, b) => mean(b.scores) - mean(a.scores));
}

/** By the panel's model; null where fewer than two tasters scored both. */
function amongTasters(
  a: TrialArm,
  b: TrialArm,
  all: readonly TrialArm[],
): { difference: number; half: number } | null {
  const shared = new Set(a.tasters?.filter((taster) => b.tasters?.includes(taster)));
  if (shared.size < 2) return null;
  const rows = all.flatMap((arm, i) =>
    (arm.tasters ?? []).map((assessor, k) => ({
      sample: String(i),
      assessor,
      session: '',
      score: arm.scores[k]!,
    })),
  );
  const panel = comparePanel(rows, isRepeated(rows) ? ['assessor', 'assessor:sample'] : ['assessor']);
  if (!panel.ok) return null;
  const names = [a, b].map((arm) => String(all.indexOf(arm)));
  const found = panel.differences.find((d) => names.includes(d.a) && names.includes(d.b));
  if (!found) return null;
  const difference = found.a === names[0] ? found.estimate : 0 - found.estimate;
  return { difference, half: (found.high - found.low) / 2 };
}

function welch(a: readonly number[], b: readonly number[]): { difference: number; half: number } {
  const [u, v] = [sampleSd(a) ** 2 / a.length, sampleSd(b) ** 2 / b.length];
  const difference = mean(a) - mean(b);
  if (u + v === 0) return { difference, half: 0 };
  const freedom = (u + v) ** 2 / (u ** 2 / (a.length - 1) + v ** 2 / (b.length - 1));
  return { difference, half: studentQuantile(0.975, freedom) * Math.sqrt(u + v) };
}

function requireScores({ scores, tasters }: TrialArm): void {
  for (const score of scores) requireBetween(score, 0, 10, 'a score');
  if (tasters && tasters.length !== scores.length)
    throw new RangeError(`${scores.length} scores need as many tasters, not ${tasters.length}`);
}
