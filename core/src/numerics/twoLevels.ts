import { requireAbove0, requireAllFinite, requireFinite } from './require.ts';

/** What is usual before anything has been seen: the mean of all groups, and how far a single value lies from it. */
export interface UsualValue {
  mean: number;
  sd: number;
}

/** The next value of a group, with its standard deviation, and that of the group’s own mean alone. */
export interface NextValue extends UsualValue {
  ofMean: number;
}

/**
 * What is thought of the spreads beforehand, in shares of the usual one: within a group and between groups, each by its median and the
 * standard deviation of its logarithm; and how far this set of groups may lie from what is usual.
 */
const WITHIN = { median: 0.5, logSd: 0.9 };
const BETWEEN = { median: 0.35, logSd: 1.2 };
const LEVEL = 0.8;

/** Between which standard deviations of its logarithm a spread is tried: far into the small, since careful hands are much steadier than usual. */
const TRIED = [-3.4, 1.6] as const;

/**
 * A spread at even steps of its logarithm. Values tell much of the spread within groups, which is tried finely, and a few groups little of that
 * between them.
 */
function spreadsOf({ median, logSd }: { median: number; logSd: number }, steps: number) {
  const [from, to] = TRIED;
  return Array.from({ length: steps }, (_, i) => {
    const z = from + ((to - from) * i) / (steps - 1);
    const log = 2 * (Math.log(median) + logSd * z);
    return { variance: Math.exp(log), log, logWeight: -(z * z) / 2 };
  });
}

const WITHINS = spreadsOf(WITHIN, 25);
const BETWEENS = spreadsOf(BETWEEN, 9);

/** A group in units of the usual spread about the usual mean. */
interface Summed {
  n: number;
  mean: number;
  /** Squares about its own mean. */
  squares: number;
}

function summed(values: readonly number[], usual: UsualValue): Summed {
  const scaled = values.map((v) => (v - usual.mean) / usual.sd);
  const n = scaled.length;
  const mean = scaled.reduce((sum, v) => sum + v, 0) / n;
  return { n, mean, squares: scaled.reduce((sum, v) => sum + (v - mean) ** 2, 0) };
}

/** Sums over groups at one pair of spreads: each group’s mean lies about the common level with the variance `between + within / n`. */
interface Level {
  precision: number;
  /** Means by their weights, and their squares. */
  weighted: number;
  square: number;
  /** Logarithm of the likelihood of all but the level, constants left out. */
  logLikelihood: number;
}

function addGroup(to: Level, g: Summed, within: (typeof WITHINS)[number], between: number): Level {
  const weight = 1 / (between + within.variance / g.n);
  return {
    precision: to.precision + weight,
    weighted: to.weighted + weight * g.mean,
    square: to.square + weight * g.mean ** 2,
    logLikelihood:
      to.logLikelihood + (Math.log(weight) - (g.n - 1) * within.log - g.squares / within.variance) / 2,
  };
}

const NO_GROUP: Level = { precision: 1 / LEVEL ** 2, weighted: 0, square: 0, logLikelihood: 0 };

/** The likelihood of all groups with the level integrated out. */
const withoutLevel = ({ precision, weighted, square, logLikelihood }: Level) =>
  logLikelihood - (Math.log(precision) + square - weighted ** 2 / precision) / 2;

/**
 * The next value of a group, from its own values and those of other groups: normal values about the mean of their group, groups about a
 * common level, with both spreads unknown and integrated over a grid (Gelman et al., Bayesian Data Analysis, 3rd ed., 5.4). A group of its
 * own in the list keeps what sets groups apart out of the spread within them. What it answers are mean and standard deviation of a
 * mixture of normals.
 *
 * @param own values of the group asked for; may be empty
 * @param others values of each other group
 * @param usual in what is thought beforehand; its spread above 0
 * @throws RangeError for what is not finite, or a usual spread of 0
 */
export function nextOfGroup(
  own: readonly number[],
  others: readonly (readonly number[])[],
  usual: UsualValue,
): NextValue {
  requireAllFinite(own, 'a value');
  others.forEach((group) => requireAllFinite(group, 'a value'));
  requireFinite(usual.mean, 'the usual value');
  requireAbove0(usual.sd, 'the usual spread');
  const mine = own.length > 0 ? summed(own, usual) : null;
  const rest = others.filter((group) => group.length > 0).map((group) => summed(group, usual));
  const tried = WITHINS.flatMap((w) =>
    BETWEENS.map((b) => {
      const [within, between] = [w.variance, b.variance];
      let elsewhere = NO_GROUP;
      for (const group of rest) elsewhere = addGroup(elsewhere, group, w, between);
      const all = mine ? addGroup(elsewhere, mine, w, between) : elsewhere;
      // The group’s mean as the others let it be expected, and as its own values show it.
      const before = 1 / (between + 1 / elsewhere.precision);
      const seen = mine ? mine.n / within : 0;
      const expected = elsewhere.weighted / elsewhere.precision;
      return {
        logWeight: w.logWeight + b.logWeight + withoutLevel(all),
        mean: (before * expected + seen * (mine?.mean ?? 0)) / (before + seen),
        ofMean: 1 / (before + seen),
        within,
      };
    }),
  );
  const most = Math.max(...tried.map((c) => c.logWeight));
  let [total, first, second, ofMeans, withins] = [0, 0, 0, 0, 0];
  for (const c of tried) {
    const weight = Math.exp(c.logWeight - most);
    total += weight;
    first += weight * c.mean;
    second += weight * c.mean ** 2;
    ofMeans += weight * c.ofMean;
    withins += weight * c.within;
  }
  const mean = first / total;
  const ofMean = ofMeans / total + Math.max(0, second / total - mean ** 2);
  return {
    mean: usual.mean + usual.sd * mean,
    sd: usual.sd * Math.sqrt(withins / total + ofMean),
    ofMean: usual.sd * Math.sqrt(ofMean),
  };
}
