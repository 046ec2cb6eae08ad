import {
  betaTail,
  binomialInterval,
  requireWhole,
  requireBetween,
  requireNotBelow0,
} from '../numerics/index.ts';

/** Classes a cut bean is counted in, after ISO 1114 and ISO 2451; each bean counts once, in the gravest that fits. */
export const CUT_CLASSES = [
  'brown',
  'partly violet',
  'violet',
  'slaty',
  'mouldy',
  'insect',
  'germinated',
  'flat',
] as const;

/** One class. */
export type CutClass = (typeof CUT_CLASSES)[number];

/** How many beans fell in each class. */
export type CutCounts = Readonly<Record<CutClass, number>>;

/** A limit of a grade: the share of some classes together, %. */
export interface GradeLimit {
  name: 'mouldy' | 'slaty' | 'other';
  classes: readonly CutClass[];
  percent: number;
}

/** A grade and its limits. */
export interface Grade {
  name: string;
  limits: readonly GradeLimit[];
}

const OTHER: readonly CutClass[] = ['insect', 'germinated', 'flat'];

const grade = (name: string, mouldy: number, slaty: number, other: number): Grade => ({
  name,
  limits: [
    { name: 'mouldy', classes: ['mouldy'], percent: mouldy },
    { name: 'slaty', classes: ['slaty'], percent: slaty },
    { name: 'other', classes: OTHER, percent: other },
  ],
});

/** Default grade table (ISO 2451): grade I 3 / 3 / 3 %, grade II 4 / 8 / 6 %. To be changed by the workshop. */
export const GRADES: readonly Grade[] = [grade('I', 3, 3, 3), grade('II', 4, 8, 6)];

/** Most beans a cut test counts. */
export const MOST_BEANS = 300;

/** A share with its exact interval. */
export interface Share {
  count: number;
  share: number;
  low: number;
  high: number;
}

/** No beans counted yet. */
export const NO_COUNTS: CutCounts = Object.fromEntries(CUT_CLASSES.map((c) => [c, 0])) as Record<
  CutClass,
  number
>;

/** Beans counted in all. */
export function beansCounted(counts: CutCounts): number {
  for (const c of CUT_CLASSES) requireWhole(counts[c], `the number of ${c} beans`);
  return CUT_CLASSES.reduce((sum, c) => sum + counts[c], 0);
}

/** Share of some classes together with its 95 % Clopper–Pearson interval. 9 of 300 gives 3.0 % [1.38 %, 5.62 %]. */
export function shareOf(counts: CutCounts, classes: readonly CutClass[]): Share {
  const total = beansCounted(counts);
  const count = classes.reduce((sum, c) => sum + counts[c], 0);
  if (total === 0) return { count: 0, share: Number.NaN, low: 0, high: 1 };
  const [low, high] = binomialInterval(count, total);
  return { count, share: count / total, low, high };
}

/**
 * Fermentation index in %: brown beans count whole, partly violet half; violet and slaty not at all. Shares of sound
 * beans only. NaN while no sound bean is counted. One usual way of counting among several.
 */
export function fermentationIndex(counts: CutCounts): number {
  const sound = counts.brown + counts['partly violet'] + counts.violet + counts.slaty;
  return sound === 0 ? Number.NaN : (100 * (counts.brown + counts['partly violet'] / 2)) / sound;
}

/** How a lot stands against one limit. */
export interface LimitVerdict extends Share {
  limit: GradeLimit;
  /** Chance that the whole lot is within the limit (uniform prior, so Beta(c + 1, n − c + 1)). */
  chanceWithin: number;
  /** 'within' and 'over' once the chance is at least 95 % either way. */
  verdict: 'within' | 'over' | 'open';
  /** Further beans that would settle it if they fall as the ones so far; 0 when settled, null when more than {@link MORE_AT_MOST}. */
  beansToSettle: number | null;
}

const SURE = 0.95;

/** Further beans beyond which nobody cuts on. */
export const MORE_AT_MOST = 3000;

/** Chance that the lot's true share is at most `limit` (0–1), given `count` of `total`. */
export function chanceWithin(count: number, total: number, limit: number): number {
  requireNotBelow0(total, 'the beans cut');
  requireBetween(count, 0, total, 'the beans found');
  requireBetween(limit, 0, 1, 'a limit as a share');
  if (limit >= 1) return 1;
  return limit <= 0 ? 0 : 1 - betaTail(limit, count + 1, total - count + 1);
}

/** Judges a cut test against every limit of a grade. */
export function judgeGrade(counts: CutCounts, gradeLimits: Grade): LimitVerdict[] {
  const total = beansCounted(counts);
  return gradeLimits.limits.map((limit) => {
    const share = shareOf(counts, limit.classes);
    const bound = limit.percent / 100;
    const chance = chanceWithin(share.count, total, bound);
    const verdict = chance >= SURE ? 'within' : chance <= 1 - SURE ? 'over' : 'open';
    return {
      ...share,
      limit,
      chanceWithin: chance,
      verdict,
      beansToSettle: verdict === 'open' ? beansToSettle(share.count, total, bound) : 0,
    };
  });
}

/** Smallest number of further beans, falling in the same share as so far, after which the chance is 95 % one way; in tens. */
function beansToSettle(count: number, total: number, bound: number): number | null {
  if (total === 0) return null;
  const share = count / total;
  const settled = (more: number) => {
    const chance = chanceWithin(count + Math.round(share * more), total + more, bound);
    return chance >= SURE || chance <= 1 - SURE;
  };
  for (let more = 10; more <= MORE_AT_MOST; more += more < 300 ? 10 : 50) if (settled(more)) return more;
  return null;
}

/** The best grade whose limits all hold by the counts themselves; null where none does or nothing is counted. */
export function gradeOf(counts: CutCounts, grades: readonly Grade[] = GRADES): Grade | null {
  if (beansCounted(counts) === 0) return null;
  return (
    grades.find((g) => g.limits.every((l) => shareOf(counts, l.classes).share * 100 <= l.percent + 1e-9)) ??
    null
  );
}
