import { cholesky, leastSquares, normalDraw, requireAllFinite, seededRandom } from '../numerics/index.ts';
import { FACTORS, toSteps, type Factor, type Setting } from './factors.ts';

/** What tasters say of a batch beside how they like it: each −1 too little, 0 right, 1 too much, as a mean over them. */
export const SIGNALS = ['sour', 'bitter', 'sweet', 'gritty'] as const;
/** See {@link SIGNALS}. */
export type Signal = (typeof SIGNALS)[number];

/** A batch that was made and tasted. */
export interface Trial {
  lotId: string;
  setting: Setting;
  /** Liking of each taster, 0–10, with who it was; at least one. */
  likings: readonly { by: string; liking: number }[];
  /** Means over tasters, −1 to 1, and how many spoke; what nobody spoke of is left out. */
  signals: Partial<Record<Signal, { mean: number; tasters: number }>>;
}

/**
 * How a step too much of each factor is tasted, in parts of one step of the signal: the trade’s own rules (more roast and more air take
 * sourness, a long roast is bitter, coarse is gritty).
 */
const TASTED_AS: Readonly<Record<Signal, Partial<Record<Factor, number>>>> = {
  sour: { dose: -0.45, acid: 0.5, conche: -0.45 },
  bitter: { dose: 0.55, sugar: -0.45 },
  sweet: { sugar: 0.75 },
  gritty: { grit: 0.75 },
};

/** What is believed before anything was tasted; standard deviations, in steps and points of liking. */
const PRIOR = {
  /** Of where the lots of a workshop are best on the mean, and of a lot around that. */
  mean: 1,
  lot: 0.9,
  /** Points of liking that a step off costs, and its spread as a factor. */
  curve: 0.16,
  curveSpread: 0.55,
  /** Best liking of a lot. */
  best: 7.2,
  bestSpread: 1.3,
  /** One taster’s liking around what a batch deserves, and a batch around its setting. */
  taster: 1,
  batch: 0.4,
  /** One taster’s word, all of them together on a day, and how far the rules of {@link TASTED_AS} are off here, as a factor. */
  word: 0.65,
  day: 0.12,
  rule: 0.4,
  /** Where everything is right, tasters of a workshop may still find a bar a little too much so. */
  habit: 0.12,
  /** How fast words saturate. */
  loud: 0.75,
} as const;

/** Liking that can be lost at most, points: far off, more makes no difference. */
const DEEPEST = 5;

/** Residuals of liking beyond this are an accident’s, not the setting’s. */
const ODD = 2.2;

/** Draws that stand for what is believed. */
const DRAWS = 300;

/** What is believed of one lot: draws of where it is best, in steps, and what a step off costs. */
export interface Belief {
  factors: readonly Factor[];
  best: { steps: number[]; curve: number[]; top: number }[];
  /** Means of the draws. */
  mean: { steps: number[]; curve: number[]; top: number };
}

/** Liking below the top at a distance from the best. */
export function lossAt(steps: readonly number[], best: readonly number[], curve: readonly number[]): number {
  let sum = 0;
  for (let j = 0; j < steps.length; j += 1) sum += curve[j]! * (steps[j]! - best[j]!) ** 2;
  return DEEPEST * (1 - Math.exp(-sum / DEEPEST));
}

/** Likings with each taster’s own height taken out, as far as tasters who tasted several batches show it. */
function levelled(trials: readonly Trial[]): { mean: number; tasters: number }[] {
  const byBatch = trials.map((t) => t.likings.reduce((s, l) => s + l.liking, 0) / t.likings.length);
  const offsets = new Map<string, { sum: number; n: number }>();
  trials.forEach((t, k) =>
    t.likings.forEach(({ by, liking }) => {
      const o = offsets.get(by) ?? { sum: 0, n: 0 };
      offsets.set(by, { sum: o.sum + liking - byBatch[k]!, n: o.n + 1 });
    }),
  );
  const offset = (by: string) => {
    const o = offsets.get(by)!;
    // Few tastings say little of a taster: shrunk towards no offset.
    return o.sum / (o.n + 1.5);
  };
  return trials.map((t) => ({
    mean: t.likings.reduce((s, l) => s + l.liking - offset(l.by), 0) / t.likings.length,
    tasters: t.likings.length,
  }));
}

/** @throws RangeError for likings outside 0–10, signals outside −1–1, settings that are none, and batches nobody tasted */
function requireTrials(trials: readonly Trial[]): void {
  for (const t of trials) {
    if (t.likings.length === 0) throw new RangeError('a batch nobody tasted teaches nothing; leave it out');
    for (const { liking } of t.likings)
      if (!(liking >= 0 && liking <= 10))
        throw new RangeError(`a liking lies between 0 and 10, not ${liking}`);
    requireAllFinite(Object.values(t.setting), 'a setting');
    for (const s of Object.values(t.signals))
      if (!(s.mean >= -1 && s.mean <= 1) || !(s.tasters >= 1))
        throw new RangeError('a signal is a mean between −1 and 1 of at least one taster');
  }
}

/**
 * What all tastings so far say of one lot: a response surface with one best setting for each lot, lots around the workshop’s mean
 * (hierarchical), likings and words as measured by noisy tasters; by least squares with its priors as residuals, and drawn from the
 * normal distribution around its least (Laplace).
 *
 * @param trials of all lots; those of other lots tell of this one through the mean
 * @param factors which are looked at; all where left out
 * @throws RangeError for nonsense in a trial
 */
export function believe(
  trials: readonly Trial[],
  lotId: string,
  factors: readonly Factor[] = FACTORS,
  seed = 11,
): Belief {
  requireTrials(trials);
  const d = factors.length;
  const lots = [...new Set([...trials.map((t) => t.lotId), lotId])];
  const stepsOf = trials.map((t) =>
    factors.map((f) => (t.setting[f] === undefined ? null : toSteps(f, t.setting[f]!))),
  );
  const level = levelled(trials);
  // The mean of the workshop, what a step costs, then each lot: its best and its top.
  const rules = SIGNALS.flatMap((signal) =>
    factors.flatMap((f, j) => {
      const much = TASTED_AS[signal][f];
      return much === undefined ? [] : [{ signal, j, much }];
    }),
  );
  const ruleAt = 2 * d;
  const habitAt = ruleAt + rules.length;
  const lotAt = (l: number) => habitAt + SIGNALS.length + l * (d + 1);
  const start = new Array<number>(lotAt(lots.length)).fill(0);
  lots.forEach((_, l) => (start[lotAt(l) + d] = PRIOR.best));
  const weights = trials.map(() => 1);
  const residuals = (p: readonly number[]): number[] => {
    const out: number[] = [];
    for (let j = 0; j < d; j += 1) out.push(p[j]! / PRIOR.mean, p[d + j]! / PRIOR.curveSpread);
    rules.forEach((_, r) => out.push(p[ruleAt + r]! / PRIOR.rule));
    SIGNALS.forEach((_, s) => out.push(p[habitAt + s]! / PRIOR.habit));
    lots.forEach((_, l) => {
      const at = lotAt(l);
      for (let j = 0; j < d; j += 1) out.push((p[at + j]! - p[j]!) / PRIOR.lot);
      out.push((p[at + d]! - PRIOR.best) / PRIOR.bestSpread);
    });
    trials.forEach((t, k) => {
      const at = lotAt(lots.indexOf(t.lotId));
      let sum = 0;
      const off = stepsOf[k]!.map((s, j) => {
        // What nobody measured is taken to have been where the lot is best.
        const delta = s === null ? 0 : s - p[at + j]!;
        sum += PRIOR.curve * Math.exp(p[d + j]!) * delta * delta;
        return delta;
      });
      const loss = DEEPEST * (1 - Math.exp(-sum / DEEPEST));
      const sd = Math.sqrt(PRIOR.taster ** 2 / level[k]!.tasters + PRIOR.batch ** 2);
      out.push((weights[k]! * (level[k]!.mean - (p[at + d]! - loss))) / sd);
      SIGNALS.forEach((signal, s) => {
        const said = t.signals[signal];
        if (!said) return;
        let strength = p[habitAt + s]!;
        rules.forEach((rule, r) => {
          if (rule.signal === signal) strength += rule.much * Math.exp(p[ruleAt + r]!) * off[rule.j]!;
        });
        const noise = Math.sqrt(PRIOR.word ** 2 / said.tasters + PRIOR.day ** 2);
        out.push((said.mean - Math.tanh(PRIOR.loud * strength)) / noise);
      });
    });
    return out;
  };
  let fit = leastSquares({ residuals, start, maxIterations: 18, tolerance: 1e-4 });
  // A batch liked far less, or more, than anything explains had an accident: it counts less.
  const oddOnes = trials.map((t, k) => {
    const at = lotAt(lots.indexOf(t.lotId));
    const curve = factors.map((_, j) => PRIOR.curve * Math.exp(fit.parameters[d + j]!));
    const steps = stepsOf[k]!.map((s, j) => s ?? fit.parameters[at + j]!);
    const loss = lossAt(steps, fit.parameters.slice(at, at + d), curve);
    const sd = Math.sqrt(PRIOR.taster ** 2 / level[k]!.tasters + PRIOR.batch ** 2);
    return Math.abs(level[k]!.mean - (fit.parameters[at + d]! - loss)) / sd;
  });
  if (oddOnes.some((r) => r > ODD)) {
    oddOnes.forEach((r, k) => (weights[k] = r > ODD ? Math.sqrt(ODD / r) * 0.6 : 1));
    fit = leastSquares({ residuals, start: fit.parameters, maxIterations: 12, tolerance: 1e-4 });
  }
  return drawBelief(
    fit.parameters,
    fit.covariance.to2DArray(),
    { d, at: lotAt(lots.indexOf(lotId)) },
    factors,
    seed,
  );
}

/** Draws of one lot’s best, what a step costs and its top, from a normal distribution with this covariance. */
function drawBelief(
  parameters: readonly number[],
  covariance: readonly (readonly number[])[],
  { d, at }: { d: number; at: number },
  factors: readonly Factor[],
  seed: number,
): Belief {
  const places = [...factors.map((_, j) => at + j), ...factors.map((_, j) => d + j), at + d];
  const n = places.length;
  const factor = cholesky(Float64Array.from(places.flatMap((i) => places.map((j) => covariance[i]![j]!))), n);
  if (!factor) throw new RangeError('the tastings contradict each other so that nothing can be believed');
  const random = seededRandom(seed);
  const best = Array.from({ length: DRAWS }, () => {
    const z = Array.from({ length: n }, () => normalDraw(random));
    const drawn = places.map((p, i) => {
      let v = parameters[p]!;
      for (let k = 0; k <= i; k += 1) v += factor.values[i * n + k]! * z[k]!;
      return v;
    });
    return {
      steps: drawn.slice(0, d),
      curve: drawn.slice(d, 2 * d).map((c) => PRIOR.curve * Math.exp(c)),
      top: Math.min(10, drawn[2 * d]!),
    };
  });
  const mean = (pick: (b: (typeof best)[number]) => number) =>
    best.reduce((s, b) => s + pick(b), 0) / best.length;
  return {
    factors,
    best,
    mean: {
      steps: factors.map((_, j) => parameters[at + j]!),
      curve: factors.map((_, j) => mean((b) => b.curve[j]!)),
      top: mean((b) => b.top),
    },
  };
}
