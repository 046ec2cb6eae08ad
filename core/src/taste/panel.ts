import {
  rangeQuantile,
  rangeTail,
  requireBetween,
  requireFinite,
  requireWhole,
  studentQuantile,
} from '../numerics/index.ts';
import { fitMixedModel, type Contrast, type MixedFit } from './mixedModel.ts';

/** One score: who gave it to what, and in which sitting. */
export interface PanelScore {
  sample: string;
  assessor: string;
  /** Session or round; what all samples share in it is taken out. */
  session: string;
  /** On any scale, the app’s runs 0–10. */
  score: number;
}

/** Groupings a panel’s model can take out. */
export type PanelGrouping = 'assessor' | 'session' | 'assessor:sample';

/** A sample’s level with assessor and session taken out. */
export interface SampleLevel extends Contrast {
  sample: string;
  /** 95 % interval of the level itself, for a panel and sittings like these. */
  low: number;
  high: number;
  /**
   * Half the width at which two samples whose bars do not meet differ: half of the average 95 % interval of its differences,
   * which is what the picture draws (after Andrews, Snee and Sarner, 1980).
   */
  compare: number;
  scores: number;
}

/** The difference a − b of two samples. */
export interface SampleDifference extends Contrast {
  a: string;
  b: string;
  /** 95 % interval, all differences together (Tukey and Kramer). */
  low: number;
  high: number;
  p: number;
  decided: boolean;
}

/** What a panel’s scores say, or how much more is needed. */
export type PanelResult =
  | { ok: false; reason: 'one-sample' | 'one-assessor' | 'too-few-scores'; needs: number }
  | {
      ok: true;
      /** From best to least. */
      samples: SampleLevel[];
      /** Every pair once, the better named first. */
      differences: SampleDifference[];
      /** Variances of the groupings, and of what is left. */
      variances: Partial<Record<PanelGrouping, number>>;
      residual: number;
      /** How far each assessor’s and session’s scores lie above the others’, by prediction. */
      levels: Partial<Record<PanelGrouping, Record<string, number>>>;
      /** −2 log of the restricted likelihood. */
      deviance: number;
    };

/** A panel’s model with its samples by name, or what it lacks. */
export type FittedPanel =
  | Extract<PanelResult, { ok: false }>
  | {
      ok: true;
      /** By name. */
      samples: string[];
      fit: MixedFit;
      levelOf: (sample: string) => Contrast;
      /** The difference a − b. */
      differenceOf: (a: string, b: string) => Contrast;
    };

/**
 * The mixed model of {@link comparePanel}, for whoever needs a few of its differences only: the pairs of a hundred samples are five thousand.
 *
 * @throws RangeError for a score that is no number; by the answer’s functions for a sample that was not scored
 */
export function fitPanel(
  rows: readonly PanelScore[],
  random: readonly PanelGrouping[] = ['assessor', 'session'],
): FittedPanel {
  rows.forEach((r, i) => requireFinite(r.score, `score ${i + 1}`));
  const samples = [...new Set(rows.map((r) => r.sample))].sort();
  const assessors = new Set(rows.map((r) => r.assessor)).size;
  if (samples.length < 2) return { ok: false, reason: 'one-sample', needs: 2 - samples.length };
  if (assessors < 2) return { ok: false, reason: 'one-assessor', needs: 2 - assessors };
  const least = samples.length + 2;
  if (rows.length < least) return { ok: false, reason: 'too-few-scores', needs: least - rows.length };
  const named: Record<PanelGrouping, string[]> = {
    assessor: rows.map((r) => r.assessor),
    session: rows.map((r) => r.session),
    'assessor:sample': rows.map((r) => JSON.stringify([r.assessor, r.sample])),
  };
  const groups = random.filter((g) => {
    const levels = new Set(named[g]).size;
    return levels > 1 && levels < rows.length;
  });
  const fit = fitMixedModel({
    y: rows.map((r) => r.score),
    fixed: rows.map((r) => samples.map((s) => Number(s === r.sample))),
    random: Object.fromEntries(groups.map((g) => [g, named[g]])),
  });
  const combination = (signs: ReadonlyMap<string, number>) => {
    for (const sample of signs.keys())
      if (!samples.includes(sample)) throw new RangeError(`${sample} was not scored`);
    return fit.contrast(samples.map((s) => signs.get(s) ?? 0));
  };
  return {
    ok: true,
    samples,
    fit,
    levelOf: (sample) => combination(new Map([[sample, 1]])),
    differenceOf: (a, b) => {
      if (a === b) throw new RangeError(`${a} does not differ from itself`);
      return combination(
        new Map([
          [a, 1],
          [b, -1],
        ]),
      );
    },
  };
}

/**
 * Samples compared by a panel: samples fixed, assessors and sessions random and crossed, by restricted maximum likelihood; missing
 * cells, unequal numbers and scores given twice are no matter. Where the same assessor met the same sample more than once,
 * `random` may hold `'assessor:sample'`, what each likes for themselves; groupings of one level, or as many as scores, have no part.
 *
 * @throws RangeError for a score that is no number
 */
export function comparePanel(
  rows: readonly PanelScore[],
  random: readonly PanelGrouping[] = ['assessor', 'session'],
): PanelResult {
  const panel = fitPanel(rows, random);
  if (!panel.ok) return panel;
  const { samples, fit } = panel;
  const differences: SampleDifference[] = [];
  samples.forEach((s, i) =>
    samples.slice(0, i).forEach((other, k) => {
      const [a, b] = fit.fixed[i]! >= fit.fixed[k]! ? [s, other] : [other, s];
      differences.push(allTogether(panel.differenceOf(a, b), a, b, samples.length));
    }),
  );
  const levels = samples.map((sample): SampleLevel => {
    const level = panel.levelOf(sample);
    const half = studentQuantile(0.975, level.freedom) * level.standardError;
    const mine = differences.filter((d) => d.a === sample || d.b === sample);
    return {
      ...level,
      sample,
      low: level.estimate - half,
      high: level.estimate + half,
      compare: mine.reduce((sum, d) => sum + (d.high - d.low) / 4, 0) / mine.length,
      scores: rows.filter((r) => r.sample === sample).length,
    };
  });
  return {
    ok: true,
    samples: levels.sort((a, b) => b.estimate - a.estimate),
    differences: differences.sort((a, b) => a.p - b.p),
    variances: fit.variances,
    residual: fit.residual,
    levels: fit.levels,
    deviance: fit.deviance,
  };
}

/** A difference with the interval that holds for all of a panel’s differences at once. */
function allTogether(found: Contrast, a: string, b: string, means: number): SampleDifference {
  const { estimate, standardError, freedom } = found;
  if (standardError === 0)
    return {
      ...found,
      a,
      b,
      low: estimate,
      high: estimate,
      p: Number(estimate === 0),
      decided: estimate !== 0,
    };
  const half = (rangeQuantile(0.95, means, freedom) / Math.SQRT2) * standardError;
  const [low, high] = [estimate - half, estimate + half];
  return {
    ...found,
    a,
    b,
    low,
    high,
    p: rangeTail((Math.abs(estimate) / standardError) * Math.SQRT2, means, freedom),
    decided: low > 0 || high < 0,
  };
}

/** Whether anybody scored one sample more than once, so that their own taste can be told from noise. */
export function isRepeated(rows: readonly PanelScore[]): boolean {
  return new Set(rows.map((r) => JSON.stringify([r.assessor, r.sample]))).size < rows.length;
}

/**
 * Samples that cannot be told apart, as brackets over the order from best to least: each holds neighbours of which no two differ,
 * none holds only what another holds already.
 */
export function notToldApart(
  samples: readonly { sample: string }[],
  differences: readonly Pick<SampleDifference, 'a' | 'b' | 'decided'>[],
): string[][] {
  const names = samples.map((s) => s.sample);
  const differ = (a: string, b: string) =>
    differences.some((d) => d.decided && ((d.a === a && d.b === b) || (d.a === b && d.b === a)));
  const brackets: [number, number][] = [];
  names.forEach((_, from) => {
    let to = from;
    const fits = (next: number) => names.slice(from, next).every((n) => !differ(n, names[next]!));
    while (to + 1 < names.length && fits(to + 1)) to += 1;
    if (to > from && !brackets.some(([a, b]) => a <= from && b >= to)) brackets.push([from, to]);
  });
  return brackets.map(([from, to]) => names.slice(from, to + 1));
}

/**
 * One mean an assessor and sample, with how high they and the sitting score taken out: the rings beside a sample’s level.
 *
 * @param levels predictions of a fitted panel; what is not in it is left in
 */
export function ringsOf(
  rows: readonly PanelScore[],
  levels: Partial<Record<PanelGrouping, Record<string, number>>>,
): PanelScore[] {
  const rings = new Map<string, { sample: string; assessor: string; scores: number[] }>();
  for (const { sample, assessor, session, score } of rows) {
    requireFinite(score, 'a score');
    const key = JSON.stringify([sample, assessor]);
    const ring = rings.get(key) ?? { sample, assessor, scores: [] };
    ring.scores.push(score - (levels.assessor?.[assessor] ?? 0) - (levels.session?.[session] ?? 0));
    rings.set(key, ring);
  }
  return [...rings.values()].map(({ scores, ...ring }) => ({
    ...ring,
    session: '',
    score: scores.reduce((a, b) => a + b, 0) / scores.length,
  }));
}

/** Noise between two cards of the same bar by the same person that is usual for a trained kitchen, points of 10. */
export const USUAL_NOISE = 1.2;

/**
 * The smallest true difference of two samples that a panel finds with chance `power` (two-sided 5 %), each scoring both samples `rounds` times
 * with a noise of `sd`.
 *
 * @throws RangeError for fewer than two scores of a sample, or a noise or power out of reach
 * @example smallestDifference({ assessors: 25, rounds: 1, sd: 1.2 }) // 0.988
 */
export function smallestDifference({
  assessors,
  rounds,
  sd,
  power = 0.8,
}: {
  assessors: number;
  rounds: number;
  sd: number;
  power?: number;
}): number {
  requireWhole(assessors, 'the number of assessors', 1);
  requireWhole(rounds, 'the number of rounds', 1);
  requireBetween(assessors * rounds, 2, 1e6, 'the number of scores of a sample');
  requireBetween(sd, 1e-9, 1e6, 'the noise of a score');
  requireBetween(power, 0.05, 0.999, 'the chance to find it');
  const scores = assessors * rounds;
  const freedom = scores - 1;
  const reach = studentQuantile(0.975, freedom) + studentQuantile(power, freedom);
  return reach * sd * Math.sqrt(2 / scores);
}

/**
 * How many assessors a paired comparison needs: each scores both samples `rounds` times with a noise of `sd`, and a true difference
 * of `difference` is to be found (two-sided 5 %) with chance `power`.
 *
 * @throws RangeError for a difference, noise or power out of reach
 * @example assessorsNeeded({ difference: 1, sd: 1.2, rounds: 1, power: 0.8 }) // 25
 */
export function assessorsNeeded({
  difference,
  sd,
  rounds,
  power = 0.8,
}: {
  difference: number;
  sd: number;
  rounds: number;
  power?: number;
}): number {
  requireBetween(difference, 1e-6, 1e6, 'a difference');
  requireBetween(sd, 1e-9, 1e6, 'the noise of a score');
  requireWhole(rounds, 'the number of rounds', 1);
  requireBetween(power, 0.05, 0.999, 'the chance to find it');
  for (let n = rounds > 1 ? 1 : 2; n < 100_000; n = n < 200 ? n + 1 : Math.ceil(n * 1.05))
    if (smallestDifference({ assessors: n, rounds, sd, power }) <= difference) return n;
  return 100_000;
}
