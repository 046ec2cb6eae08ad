import { quantile, requireFinite } from '../numerics/index.ts';
import { FACTOR_HABITS, FACTORS, fromSteps, toSteps, type Factor, type Setting } from './factors.ts';
import { believe, lossAt, type Belief, type Trial } from './model.ts';

/** Within this of its best a lot is dialled in, points of liking. */
export const NEAR_ENOUGH = 0.3;

/** Chance of being near enough at which there is no more to seek. */
const SURE = 0.8;

/** A factor is turned only if that is worth so much, points. */
const WORTH_TURNING = 0.03;

/** Settings this near, in points of liking between them, are the same. */
const SAME = 0.08;

/** How much doubt is worth beside expectation, once the expected best has been tried. */
const CURIOSITY = 1.8;

/** What a batch may cost at most for what it teaches, points of liking. */
const MOST_SPENT = 0.35;

/** How far out along the line of least knowledge a trial may lie, standard deviations. */
const REACHES = [-1.8, -1.2, -0.7, 0.7, 1.2, 1.8];

/** What the next batch of a lot should be, and what is believed. */
export interface Advice {
  /** What to set; factors the maker fixes are as they fix them. */
  setting: Setting;
  /** Where each factor goes from and to, those worth turning, the most telling first. */
  turns: { factor: Factor; from: number; to: number; gain: number }[];
  /** A part of the same batch drawn off otherwise, where that tells most of what is least known; null where nothing can be split. */
  split: { factor: Factor; to: number } | null;
  /** Expected liking over the best tried so far (or the usual start), and its standard deviation, points. */
  gain: number;
  gainSd: number;
  /** Chance that the best tried so far is within {@link NEAR_ENOUGH} of the best there is. */
  near: number;
  /**
   * `stop`: near enough; `try`: worth a batch; `learn`: what is expected best has been tried, and this asks where it might be better
   * still, at some cost; `unknown`: it may be better or not, a tasting by more people would tell as much.
   */
  verdict: 'try' | 'stop' | 'learn' | 'unknown';
  /** Where each factor is believed to be best: four fifths of what may be, and its middle. */
  believed: Partial<Record<Factor, { low: number; middle: number; high: number }>>;
  /** Tried settings of this lot, the one believed best marked. */
  tried: { setting: Setting; liking: number; isBest: boolean }[];
  /** Batches of other lots that were learned from. */
  others: number;
}

/** What is asked. */
export interface AdviceQuestion {
  trials: readonly Trial[];
  lotId: string;
  /** Factors the maker fixes at a value: they are never turned. */
  fixed?: Setting;
  /** What maker and machines can do; what makes sense where left out. */
  limits?: Partial<Record<Factor, readonly [low: number, high: number]>>;
  /** Factors looked at; those with any reading where left out. */
  factors?: readonly Factor[];
}

function within(factor: Factor, value: number, limits: AdviceQuestion['limits']): number {
  const [low, high] = limits?.[factor] ?? [FACTOR_HABITS[factor].low, FACTOR_HABITS[factor].high];
  return Math.min(high, Math.max(low, value));
}

/** Factors of which one batch can be made two ways: its roast is behind it when they come. */
const SPLITS: readonly Factor[] = ['conche', 'grit'];

/** How far the other part goes, standard deviations of what is believed. */
const SPLIT_REACH = 1.3;

/** Doubt worth splitting a batch for, points. */
const WORTH_SPLITTING = 0.06;

/** The part of a batch that tells most beside it: what is least known of the factors that come after the roast, well to one side. */
function splitOf(
  belief: Belief,
  to: readonly number[],
  factors: readonly Factor[],
  { fixed, limits }: { fixed: Setting; limits: AdviceQuestion['limits'] },
): Advice['split'] {
  const doubts = factors.map((f, j) => {
    if (!SPLITS.includes(f) || fixed[f] !== undefined) return { f, j, sd: 0, worth: 0 };
    const drawn = belief.best.map((b) => b.steps[j]!);
    const mean = drawn.reduce((a, b) => a + b, 0) / drawn.length;
    const sd = Math.sqrt(drawn.reduce((s, v) => s + (v - mean) ** 2, 0) / drawn.length);
    return { f, j, sd, worth: belief.mean.curve[j]! * sd * sd };
  });
  const most = doubts.reduce((a, b) => (b.worth > a.worth ? b : a));
  if (most.worth < WORTH_SPLITTING) return null;
  const { f, j, sd } = most;
  // Longer and finer can be had of the same batch; what has been ground cannot be made coarse again, so the main part may come first.
  const sides = [1, -1].map((side) => within(f, fromSteps(f, to[j]! + side * SPLIT_REACH * sd), limits));
  const far = (v: number) => Math.abs(toSteps(f, v) - to[j]!);
  const value = far(sides[0]!) >= far(sides[1]!) * 0.99 ? sides[0]! : sides[1]!;
  return far(value) > sd / 2 ? { factor: f, to: value } : null;
}

/** Mean and standard deviation over draws. */
function over(
  belief: Belief,
  of: (b: Belief['best'][number]) => number,
): { mean: number; sd: number; all: number[] } {
  const all = belief.best.map(of);
  const mean = all.reduce((a, b) => a + b, 0) / all.length;
  return { mean, sd: Math.sqrt(all.reduce((s, v) => s + (v - mean) ** 2, 0) / all.length), all };
}

/**
 * Places along the line on which least is known of where a lot is best, at several distances to both sides: what one thing takes and
 * another brings (less roast, more air) tastes alike in words, and only liking tells.
 */
function ridgeOf({ best, mean }: Belief): number[][] {
  const d = mean.steps.length;
  const weight = mean.curve.map(Math.sqrt);
  const centre = weight.map((w, j) => (w * best.reduce((s, b) => s + b.steps[j]!, 0)) / best.length);
  const off = best.map((b) => weight.map((w, j) => w * b.steps[j]! - centre[j]!));
  let axis = Array.from({ length: d }, (_, j) => 1 + j / 10);
  let spread = 0;
  // The direction of greatest spread, by power iteration.
  for (let n = 0; n < 40; n += 1) {
    const next = axis.map(
      (_, i) => off.reduce((s, o) => s + o[i]! * o.reduce((q, v, j) => q + v * axis[j]!, 0), 0) / off.length,
    );
    spread = Math.hypot(...next);
    if (spread === 0) break;
    axis = next.map((v) => v / spread);
  }
  return [0, ...REACHES].map((reach) =>
    mean.steps.map((s, j) => s + (reach * Math.sqrt(spread) * axis[j]!) / Math.max(0.05, weight[j]!)),
  );
}

/**
 * The next trial of a lot: what is expected to be liked most, given all tastings of all lots, within what is fixed and possible. It says
 * what it expects with how sure it is, when to stop, and when it does not know.
 *
 * @throws RangeError for nonsense in trials, fixed values or limits, and where everything is fixed
 */
export function adviseTrial({
  trials,
  lotId,
  fixed = {},
  limits = {},
  factors: asked,
}: AdviceQuestion): Advice {
  for (const [factor, range] of Object.entries(limits))
    if (range && !(range[0] <= range[1]))
      throw new RangeError(`the limits of ${factor} must rise, not ${range.join(' to ')}`);
  for (const [factor, value] of Object.entries(fixed)) requireFinite(value, `the fixed ${factor}`);
  const factors =
    asked ??
    (trials.length === 0 ? FACTORS : FACTORS.filter((f) => trials.some((t) => t.setting[f] !== undefined)));
  const free = factors.filter((f) => fixed[f] === undefined);
  if (free.length === 0)
    throw new RangeError('everything is fixed; leave at least one factor free to advise on');
  const belief = believe(trials, lotId, factors);
  const mine = trials.filter((t) => t.lotId === lotId);
  const usual = (f: Factor) => within(f, fixed[f] ?? FACTOR_HABITS[f].usual, limits);
  const stepsOf = (s: Setting) => factors.map((f) => toSteps(f, s[f] ?? usual(f)));
  const loss = (steps: readonly number[]) => over(belief, (b) => lossAt(steps, b.steps, b.curve));
  // The best tried, by what is believed of it and not by one lucky tasting.
  const losses = mine.map((t) => loss(stepsOf(t.setting)).mean);
  const bestAt = losses.indexOf(Math.min(...losses));
  const base: Setting = bestAt >= 0 ? mine[bestAt]!.setting : {};
  const from = stepsOf(base);
  const possible = (steps: readonly number[]) =>
    factors.map((f, j) => toSteps(f, fixed[f] ?? within(f, fromSteps(f, steps[j]!), limits)));
  const expected = possible(belief.mean.steps);
  // Where that has been tried already, the next batch asks where it might be better still: expectation and doubt together.
  const isTried = mine.some((t) => lossAt(stepsOf(t.setting), expected, belief.mean.curve) < SAME);
  const here = loss(expected).all;
  /** How much a batch would tell of where it is better, less what it is expected to cost. */
  const promise = (steps: readonly number[]) => {
    const more = loss(steps).all.map((l, k) => l - here[k]!);
    const mean = more.reduce((x, y) => x + y, 0) / more.length;
    const sd = Math.sqrt(more.reduce((q, m) => q + (m - mean) ** 2, 0) / more.length);
    return mean > MOST_SPENT ? -Infinity : CURIOSITY * sd - mean;
  };
  const aim = isTried
    ? ridgeOf(belief)
        .map(possible)
        .reduce((x, y) => (promise(y) > promise(x) ? y : x))
    : expected;
  const isToLearn = isTried && aim.some((s, j) => Math.abs(s - expected[j]!) > 1e-9);
  // What is hardly worth turning stays as it is: a batch should tell why it is better.
  const to = [...aim];
  const gains = factors.map((f, j) => {
    if (fixed[f] !== undefined) return 0;
    const stays = [...aim];
    stays[j] = from[j]!;
    const gain = loss(stays).mean - loss(aim).mean;
    if (!isToLearn && gain < WORTH_TURNING && bestAt >= 0) to[j] = from[j]!;
    return gain;
  });
  const before = loss(from);
  const after = loss(to);
  const gained = before.all.map((b, k) => b - after.all[k]!);
  const gain = gained.reduce((a, b) => a + b, 0) / gained.length;
  const gainSd = Math.sqrt(gained.reduce((s, g) => s + (g - gain) ** 2, 0) / gained.length);
  // Best there is within what can be set.
  const reachable = belief.best.map((b) =>
    factors.map((f, j) =>
      fixed[f] !== undefined
        ? toSteps(f, fixed[f]!)
        : toSteps(f, within(f, fromSteps(f, b.steps[j]!), limits)),
    ),
  );
  const near =
    bestAt < 0
      ? 0
      : belief.best.filter((b, k) => before.all[k]! - lossAt(reachable[k]!, b.steps, b.curve) <= NEAR_ENOUGH)
          .length / belief.best.length;
  const setting: Setting = Object.fromEntries(
    factors.map((f, j) => [f, fixed[f] ?? within(f, fromSteps(f, to[j]!), limits)]),
  );
  return {
    setting,
    turns: factors
      .map((factor, j) => ({
        factor,
        from: fromSteps(factor, from[j]!),
        to: setting[factor]!,
        gain: gains[j]!,
        turned: to[j] !== from[j] && fixed[factor] === undefined,
      }))
      .filter((t) => t.turned)
      .sort((a, b) => b.gain - a.gain)
      .map(({ turned: _, ...t }) => t),
    split: splitOf(belief, to, factors, { fixed, limits }),
    gain,
    gainSd,
    near,
    verdict:
      near >= SURE
        ? 'stop'
        : isToLearn
          ? 'learn'
          : bestAt >= 0 && gain < gainSd / 2 && gain < NEAR_ENOUGH / 2
            ? 'unknown'
            : 'try',
    believed: Object.fromEntries(
      factors.map((f, j) => {
        const drawn = belief.best.map((b) => b.steps[j]!);
        const at = (p: number) => within(f, fromSteps(f, quantile(drawn, p)), limits);
        return [f, { low: at(0.1), middle: at(0.5), high: at(0.9) }];
      }),
    ),
    tried: mine.map((t, k) => ({
      setting: t.setting,
      liking: t.likings.reduce((s, l) => s + l.liking, 0) / t.likings.length,
      isBest: k === bestAt,
    })),
    others: trials.length - mine.length,
  };
}
